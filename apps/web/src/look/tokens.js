/**
 * The colours of the desk, by role, in light and dark. The one place where they are written down: the style sheet takes
 * them as variables, the canvases read those, and the contrast test checks the pairs that are used.
 */
exports.colors = {
  light: {
    desk: '#DDD8CD',
    tray: '#F4F1EA',
    raised: '#FFFFFF',
    edge: '#857F72',
    ink: '#1B1D22',
    faint: '#54575E',
    rule: '#CFC8BA',
    seal: '#B8402A',
    onseal: '#FFFFFF',
    rough: '#6FA8C9',
    paper: '#FFFFFF',
  },
  dark: {
    desk: '#1E2226',
    tray: '#292E33',
    raised: '#343A40',
    edge: '#868E96',
    ink: '#ECE8E0',
    faint: '#A7ABB0',
    rule: '#40474E',
    seal: '#F0876B',
    onseal: '#1E2226',
    rough: '#6FA8C9',
    paper: '#FFFFFF',
  },
};
