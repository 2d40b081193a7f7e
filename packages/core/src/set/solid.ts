import {
  between,
  carriedBy,
  cross,
  dot,
  lengthOfVector,
  minus,
  scaled,
  sum,
  turnedBy,
  unit,
  type Rigid,
  type Vector,
} from '../math';

// A solid is surfaces and the edges between them. Flat faces are polygons; what is round is kept as what it is.

/** A line in space, by a parameter: 0..1 along a segment, an angle along an arc, the number of a point along a chain. */
export type Course =
  | { readonly kind: 'segment'; readonly from: Vector; readonly to: Vector }
  /** centre + u·cos t + v·sin t, from t = `from` to the greater `to`. */
  | {
      readonly kind: 'arc';
      readonly centre: Vector;
      readonly u: Vector;
      readonly v: Vector;
      readonly from: number;
      readonly to: number;
    }
  | { readonly kind: 'chain'; readonly points: readonly Vector[] };

/** A flat polygon with holes; its normal points out of the solid. */
export interface Face {
  readonly kind: 'face';
  readonly rings: readonly (readonly Vector[])[];
  readonly normal: Vector;
}

/** A flat ring or disc. */
export interface Disc {
  readonly kind: 'disc';
  readonly centre: Vector;
  readonly normal: Vector;
  readonly radius: number;
  readonly hole: number;
}

/**
 * The mantle of a cylinder or cone: from `foot` along the unit `axis`, `radius` at the foot and `top` at `height`. Angles go
 * from `u` towards `v`; `range` is the part of it that there is. The solid lies about the axis, or outside where it is `inside`.
 */
export interface Mantle {
  readonly kind: 'mantle';
  readonly foot: Vector;
  readonly axis: Vector;
  readonly u: Vector;
  readonly v: Vector;
  readonly height: number;
  readonly radius: number;
  readonly top: number;
  readonly range?: readonly [from: number, to: number];
  readonly inside?: true;
}

export interface Ball {
  readonly kind: 'ball';
  readonly centre: Vector;
  readonly radius: number;
}

export type Surface = Face | Disc | Mantle | Ball;

export interface Edge {
  readonly course: Course;
  /** The surfaces on its two sides, as numbers in the list of the solid; −1 where there is none. */
  readonly sides: readonly [number, number];
  /** Edges of one run that go on in each other are one line. */
  readonly run?: string;
}

export interface Solid {
  readonly surfaces: readonly Surface[];
  readonly edges: readonly Edge[];
  /** Whether it has an inside, so that the backs of its surfaces are never seen. */
  readonly closed: boolean;
}

/** Several solids as one. */
export function joined(solids: readonly Solid[]): Solid {
  const surfaces: Surface[] = [];
  const edges: Edge[] = [];
  solids.forEach((solid, k) => {
    const first = surfaces.length;
    const moved = (side: number) => (side < 0 ? side : side + first);
    surfaces.push(...solid.surfaces);
    for (const { course, sides, run } of solid.edges)
      edges.push({
        course,
        sides: [moved(sides[0]), moved(sides[1])],
        ...(run !== undefined && { run: `${k}:${run}` }),
      });
  });
  return { surfaces, edges, closed: solids.every(({ closed }) => closed) };
}

export function courseUnder(map: Rigid, course: Course): Course {
  switch (course.kind) {
    case 'segment':
      return { kind: 'segment', from: carriedBy(map, course.from), to: carriedBy(map, course.to) };
    case 'arc': {
      const { centre, u, v } = course;
      return { ...course, centre: carriedBy(map, centre), u: turnedBy(map, u), v: turnedBy(map, v) };
    }
    case 'chain':
      return { kind: 'chain', points: course.points.map((p) => carriedBy(map, p)) };
  }
}

function surfaceUnder(map: Rigid, surface: Surface): Surface {
  switch (surface.kind) {
    case 'face':
      return {
        kind: 'face',
        rings: surface.rings.map((ring) => ring.map((p) => carriedBy(map, p))),
        normal: turnedBy(map, surface.normal),
      };
    case 'disc':
      return { ...surface, centre: carriedBy(map, surface.centre), normal: turnedBy(map, surface.normal) };
    case 'mantle': {
      const { foot, axis, u, v } = surface;
      const [turnedAxis, turnedU, turnedV] = [axis, u, v].map((way) => turnedBy(map, way));
      return { ...surface, foot: carriedBy(map, foot), axis: turnedAxis, u: turnedU, v: turnedV };
    }
    case 'ball':
      return { ...surface, centre: carriedBy(map, surface.centre) };
  }
}

/** A solid under a rigid map. */
export const solidUnder = (map: Rigid, { surfaces, edges, closed }: Solid): Solid => ({
  surfaces: surfaces.map((surface) => surfaceUnder(map, surface)),
  edges: edges.map((edge) => ({ ...edge, course: courseUnder(map, edge.course) })),
  closed,
});

/** The parameters between which a course runs. */
export function rangeOf(course: Course): readonly [number, number] {
  if (course.kind === 'arc') return [course.from, course.to];
  return [0, course.kind === 'segment' ? 1 : course.points.length - 1];
}

/** The place on a course. */
export function placeAt(course: Course, t: number): Vector {
  switch (course.kind) {
    case 'segment':
      return between(course.from, course.to, t);
    case 'arc': {
      const { centre: c, u, v } = course;
      const [cos, sin] = [Math.cos(t), Math.sin(t)];
      return [c[0] + u[0] * cos + v[0] * sin, c[1] + u[1] * cos + v[1] * sin, c[2] + u[2] * cos + v[2] * sin];
    }
    case 'chain': {
      const k = Math.max(0, Math.min(course.points.length - 2, Math.floor(t)));
      return between(course.points[k], course.points[k + 1], t - k);
    }
  }
}

/** How deep a course lies at a parameter, where z goes into the picture. */
export function depthOf(course: Course, t: number): number {
  switch (course.kind) {
    case 'segment':
      return course.from[2] + (course.to[2] - course.from[2]) * t;
    case 'arc':
      return course.centre[2] + course.u[2] * Math.cos(t) + course.v[2] * Math.sin(t);
    case 'chain':
      return placeAt(course, t)[2];
  }
}

/** How the place on a course goes on with its parameter. */
export function slopeOf(course: Course, t: number): Vector {
  switch (course.kind) {
    case 'segment':
      return minus(course.to, course.from);
    case 'arc':
      return sum(scaled(course.u, -Math.sin(t)), scaled(course.v, Math.cos(t)));
    case 'chain': {
      const k = Math.max(0, Math.min(course.points.length - 2, Math.floor(t)));
      return minus(course.points[k + 1], course.points[k]);
    }
  }
}

/** The outward normal of a surface at a place on it; of no set length on a mantle that ends in a point. */
export function normalAt(surface: Surface, p: Vector): Vector {
  switch (surface.kind) {
    case 'face':
    case 'disc':
      return surface.normal;
    case 'ball':
      return scaled(minus(p, surface.centre), 1 / surface.radius);
    case 'mantle': {
      const { foot, axis, height, radius, top, inside } = surface;
      const from = minus(p, foot);
      const out = minus(from, scaled(axis, dot(from, axis)));
      const long = lengthOfVector(out) || 1;
      const lean = (radius - top) / height;
      const normal = scaled(sum(scaled(out, 1 / long), scaled(axis, lean)), 1 / Math.hypot(1, lean));
      return inside ? scaled(normal, -1) : normal;
    }
  }
}

/** The generator of a mantle at an angle, from foot to top. */
export function generatorOf(
  { foot, axis, u, v, height, radius, top }: Mantle,
  angle: number,
): readonly [Vector, Vector] {
  const out = sum(scaled(u, Math.cos(angle)), scaled(v, Math.sin(angle)));
  return [sum(foot, scaled(out, radius)), sum(sum(foot, scaled(axis, height)), scaled(out, top))];
}

/** The angle of a place about the axis of a mantle, brought into its range where it has one. */
export function angleOn({ foot, u, v, range }: Mantle, p: Vector): number {
  const from = minus(p, foot);
  const angle = Math.atan2(dot(from, v), dot(from, u));
  if (!range) return angle;
  const turns = Math.ceil((range[0] - 1e-9 - angle) / (2 * Math.PI));
  return angle + turns * 2 * Math.PI;
}

/** Whether a mantle has an angle, as `angleOn` answers it. */
export const hasAngle = ({ range }: Mantle, angle: number): boolean => !range || angle <= range[1] + 1e-9;

/** A flat polygon through some corners, with its normal by their turn (Newell's method). */
export function faceOf(rings: readonly (readonly Vector[])[]): Face {
  const [outer] = rings;
  let normal: Vector = [0, 0, 0];
  for (let k = 0; k < outer.length; k++) normal = sum(normal, cross(outer[k], outer[(k + 1) % outer.length]));
  return { kind: 'face', rings, normal: unit(normal) };
}
