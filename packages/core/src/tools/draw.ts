import type { LiveStroke } from '../ink';
import { packSamples, type Edit, type EntityId, type SamplesEntity, type StrokeEntity } from '../page';

/** The ids and the place in the order that a new stroke is to have. */
export interface StrokePlace {
  readonly strokeId: EntityId;
  readonly samplesId: EntityId;
  readonly layerId: EntityId;
  readonly order: string;
}

/** What lifting the pen adds to the page: the stroke as it was shown, and its raw samples. */
export function drawnEdits(live: LiveStroke, place: StrokePlace): Edit[] {
  const samples: SamplesEntity = { kind: 'samples', id: place.samplesId, packed: packSamples(live.kept) };
  const stroke: StrokeEntity = {
    kind: 'stroke',
    id: place.strokeId,
    layerId: place.layerId,
    order: place.order,
    ...live.stroke(),
    origin: { samples: place.samplesId, calm: live.calm, zoom: live.zoom },
  };
  return [
    { before: null, after: samples },
    { before: null, after: stroke },
  ];
}
