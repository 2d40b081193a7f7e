import { STRIDE } from '../curve';
import { scaling } from '../math';
import type { Said, TraceSettings } from '../page';
import { finishedLine, type FinishedLine } from './finishedLine';
import { gapsBetween, type Gap } from './gaps';
import { joinedLines, type RawLine } from './joined';
import { isUnsurePairing, leaving, saidPairing, type Pairing } from './junctions';
import { reachesOf, type MeasuredLines } from './measuredLines';
import { mapSaid, mapTraced } from './mapped';
import { lastNear } from './said';
import type { Place, Traced, TracedLine } from './types';

/** Lines between two answers of how far it is. */
const SLICE = 40;

/** Lines that were finished before, by all that they are made of. */
const finished = new WeakMap<MeasuredLines, Map<string, FinishedLine>>();

/**
 * The lines of a picture as they were measured, as settings and the artist's own word have them. Px of the picture. What is
 * made of the same stretches as before, and has nothing new said of it, is not fitted anew. Yields how far it has come, 0..1.
 */
export function* linesOf(
  measured: MeasuredLines,
  settings: TraceSettings,
  given: readonly Said[],
): Generator<number, Pick<Traced, 'lines' | 'places'>> {
  const { skeleton, branches, pairings } = measured;
  const { graph, scale, usual } = skeleton;
  const said = mapSaid(given, scaling(scale));
  const reach = reachesOf(branches);
  const places: Place[] = [];
  const chosen = new Map<number, Pairing>();
  for (const [node, ways] of pairings) {
    const at = graph.nodes[node];
    if (!at || ways.length === 0) continue;
    const word = lastNear(said, at, ['junction'], at.radius + usual + 3);
    const pairing = (word?.as === 'junction' && saidPairing(ways, reach, word.pairs)) || ways[0];
    chosen.set(node, pairing);
    const choices = ways.map(({ pairs }): Said => {
      const angles = pairs.map(([p, q]) => [leaving(reach(p)), leaving(reach(q))] as const);
      return { x: at.x, y: at.y, as: 'junction', pairs: angles };
    });
    const isUnsure = !word && isUnsurePairing(ways, reach);
    const { x, y, radius } = at;
    places.push({ kind: 'junction', x, y, choice: ways.indexOf(pairing), choices, isUnsure, radius });
  }
  const gaps = gapsBetween(graph, reach, usual).map((gap) => ({
    gap,
    word: lastNear(said, gap, ['bridged', 'open'], usual + 3),
  }));
  const bridged = gaps.filter(({ word }) => word?.as === 'bridged').map(({ gap }) => gap);
  places.push(...gaps.map(({ gap, word }) => gapPlace(gap, word)));
  const bridges = bridged.map(({ ends }) => ends);
  const raws = joinedLines({ graph, branches, reach, pairings: chosen, bridges });
  const old = finished.get(measured) ?? new Map<string, FinishedLine>();
  const own = new Map<string, FinishedLine>();
  const lines: TracedLine[] = [];
  for (const [k, raw] of raws.entries()) {
    if (k % SLICE === SLICE - 1) yield k / raws.length;
    if (raw.triples.length < 2 * STRIDE) continue;
    const about = saidAbout(said, raw, usual);
    const key = signatureOf(raw, about, settings);
    const line = old.get(key) ?? finishedLine(skeleton, raw, settings, about);
    own.set(key, line);
    lines.push(...line.lines);
    places.push(...line.places);
  }
  finished.set(measured, own);
  for (const { x, y, width, at } of skeleton.dots) {
    const dot = Float64Array.of(x, y, width, x, y, width, x, y, width, x, y, width);
    lines.push({ key: `dot${at}`, spine: { points: dot, closed: false } });
  }
  return mapTraced({ lines, blacks: [], places }, scaling(1 / scale));
}

function gapPlace({ x, y, width }: Gap, word: Said | undefined): Place {
  const choices: Said[] = [
    { x, y, as: 'open' },
    { x, y, as: 'bridged' },
  ];
  return { kind: 'gap', x, y, choice: word?.as === 'bridged' ? 1 : 0, choices, isUnsure: !word, radius: width / 2 };
}

/** What was said of places on a line. */
function saidAbout(said: readonly Said[], { triples }: RawLine, usual: number): Said[] {
  if (said.length === 0) return [];
  const within = 3 * usual + 6;
  return said.filter((one) => {
    if (one.as === 'junction' || one.as === 'black' || one.as === 'line') return false;
    for (let i = 0; i < triples.length; i += STRIDE)
      if (Math.abs(triples[i] - one.x) < within && Math.abs(triples[i + 1] - one.y) < within) return true;
    return false;
  });
}

/** All that a finished line hangs on, in short. */
function signatureOf({ way, triples, ends }: RawLine, about: readonly Said[], settings: TraceSettings): string {
  const tips = [...triples.slice(0, 2), ...triples.slice(-STRIDE)].map((value) => value.toFixed(3));
  const { corners, smoothness } = settings;
  return [way.join('.'), tips.join(), ends.join(), corners, smoothness, JSON.stringify(about)].join('|');
}
