// Inks and washes the heron mask over its rough by pen, as an artist would: for the picture of a page at work.

/** A smooth course through places (Catmull-Rom splines, 1974), some `count` samples. */
function course(places, count = 60) {
  const each = Math.ceil(count / (places.length - 1));
  const at = (k) => places[Math.min(places.length - 1, Math.max(0, k))];
  const mix = (a, b, c, d, t) =>
    0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t ** 3);
  const samples = places.slice(1).flatMap((_place, i) =>
    Array.from({ length: each }, (__, k) => {
      const four = [at(i - 1), at(i), at(i + 1), at(i + 2)];
      return [0, 1].map((axis) => mix(...four.map((place) => place[axis]), k / each));
    }),
  );
  return [...samples, at(places.length)];
}

const swell = (t) => 0.15 + 0.6 * Math.sin(Math.PI * t);
const flick = (t) => 0.75 * (1 - t) + 0.05;
const asIs = (places) => places;
const mirrored = (places) => places.map(([x, y]) => [1304 - x, y]);

const FACE = [
  [652, 208],
  [600, 197],
  [530, 204],
  [482, 250],
  [461, 340],
  [482, 400],
  [540, 452],
  [592, 516],
  [622, 600],
  [652, 752],
];
const LID = [
  [512, 350],
  [532, 336],
  [560, 331],
  [590, 342],
  [612, 356],
];
const LOWER_LID = [
  [512, 350],
  [530, 368],
  [560, 377],
  [592, 370],
  [612, 356],
];
const BEAK = [
  [652, 376],
  [634, 404],
  [620, 436],
  [619, 520],
  [626, 610],
  [638, 690],
  [652, 750],
];

/** The left half, in CSS px of a board of 1280 × 800; the right one is its mirror image. */
const HALF = [
  [FACE, swell],
  [LID, swell],
  [LOWER_LID, swell],
  [BEAK.slice(2), flick],
  [BEAK.slice(0, 3).reverse(), swell],
  [
    [
      [340, 236],
      [392, 288],
      [462, 322],
    ],
    swell,
  ],
  [
    [
      [340, 236],
      [372, 300],
      [430, 345],
      [522, 354],
    ],
    swell,
  ],
  [
    [
      [464, 322],
      [520, 304],
      [566, 320],
      [612, 318],
    ],
    swell,
  ],
  [
    [
      [538, 92],
      [552, 140],
      [612, 202],
    ],
    swell,
  ],
  [
    [
      [538, 92],
      [590, 108],
      [612, 150],
      [640, 206],
    ],
    swell,
  ],
  [
    [
      [416, 145],
      [490, 168],
      [572, 202],
    ],
    swell,
  ],
  [
    [
      [416, 145],
      [500, 150],
      [556, 164],
      [606, 198],
    ],
    swell,
  ],
  [
    [
      [652, 80],
      [640, 120],
      [640, 160],
      [652, 206],
    ],
    swell,
  ],
  [
    [
      [462, 330],
      [424, 360],
      [410, 420],
      [422, 500],
      [414, 572],
    ],
    flick,
  ],
  [
    [
      [626, 492],
      [628, 478],
      [633, 482],
      [637, 492],
    ],
    swell,
  ],
  ...[0, 1, 2, 3, 4].map((k) => [
    [
      [588 + 3 * k, 285 - 12 * k],
      [606 + 2 * k, 274 - 12 * k],
      [626 + k, 284 - 12 * k],
    ],
    swell,
  ]),
];

async function inkLines(tab) {
  const session = await tab.context().newCDPSession(tab);
  const send = (type, [x, y], force, buttons) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type, x, y, force, buttons, button: 'left', pointerType: 'pen' },
      clickCount: type === 'mousePressed' ? 1 : 0,
    });
  const draw = async (places, pressure) => {
    await send('mousePressed', places[0], pressure(0), 1);
    for (const [k, place] of places.entries()) await send('mouseMoved', place, pressure(k / places.length), 1);
    await send('mouseReleased', places.at(-1), 0, 0);
  };
  for (const side of [asIs, mirrored]) {
    for (const [places, pressure] of HALF) await draw(side(course(places)), pressure);
    const iris = Array.from({ length: 60 }, (_, k) => [558 + 20 * Math.cos(k / 9), 354 + 20 * Math.sin(k / 9)]);
    await draw(side(iris), () => 0.35);
  }
}

async function fillArea(tab, loop, colour) {
  await tab.keyboard.press('Escape');
  await tab.mouse.move(...loop[0]);
  await tab.mouse.down();
  for (const place of loop) await tab.mouse.move(...place);
  await tab.mouse.up();
  await tab.getByTestId('pixel-actions').waitFor();
  await tab.getByRole('button', { name: 'Any colour' }).click();
  await tab.getByLabel('As #rrggbb').fill(colour);
  await tab.getByRole('button', { name: 'Use it' }).click();
  await tab.getByRole('button', { name: 'Fill with this colour' }).click();
}

/** Draws the mask on the open board of the heron page, and leaves its right eye selected. */
export async function drawHeron(tab) {
  await inkLines(tab);
  await tab.getByRole('button', { name: /^Rough, / }).click();
  await tab.getByRole('button', { name: 'Add', exact: true }).click();
  await tab.getByRole('button', { name: 'Wash: pixels' }).click();
  await tab.keyboard.press('4');
  const around = (half) => [...course(half, 90), ...mirrored(course(half, 90)).reverse()];
  await fillArea(tab, around(FACE), '#cdd6d6');
  await fillArea(tab, around(BEAK), '#dcb878');
  for (const side of [asIs, mirrored])
    await fillArea(tab, side([...course(LID, 40), ...course(LOWER_LID, 40).reverse()]), '#fdfdf8');
}
