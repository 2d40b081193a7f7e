import { inOneGo, type Box } from '../math';
import { pulling, type PulledLine } from './lines';
import { solidsOf, type Models } from './standing';
import type { BlockEntity, PullSettings } from './types';
import { viewOf, type Eye } from './view';

/** The lines of a set's blocks that a camera sees within a part of the page, as strokes, all at once. */
export function pullLines(
  blocks: readonly BlockEntity[],
  camera: Eye,
  settings: PullSettings,
  page: Box,
  models?: Models,
): PulledLine[] {
  return inOneGo(pulling(solidsOf(blocks, models), viewOf(camera), settings, page));
}
