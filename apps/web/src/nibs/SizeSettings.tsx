import { pxToMm } from '@true-nib/core/page';
import { SIZE_LIMITS, sizeInPx, TWIN_LIMITS, type RackNib } from '@true-nib/core/rack';
import { ScrubNumber, useIsWide } from '../look';
import { useBoard } from '../board';
import { changeNib, setNibSize, setRubSize } from './rackStore';
import { useRackNib } from './useNib';

/** A size in its own unit and, where there is room, in the other one. */
function sizeInWords(size: number, { unit }: Pick<RackNib, 'unit'>, ppi: number, isRoomy: boolean): string {
  const mm = (value: number) => `${value < 1 ? value.toFixed(2) : value.toFixed(1)} mm`;
  const px = sizeInPx(size, { unit }, ppi);
  const both = unit === 'mm' ? [mm(size), `${px.toFixed(1)} px`] : [`${size} px`, mm(pxToMm(px, ppi))];
  return isRoomy ? both.join(' · ') : both[0];
}

const stepOf = (size: number, { unit }: RackNib): number =>
  unit === 'mm' ? (size < 1 ? 0.01 : 0.05) : size < 10 ? 0.1 : 0.5;

/** The size of the nib in hand, or of what it rubs with. */
export function SizeSetting({ of }: { readonly of: 'nib' | 'rub' }) {
  const isRub = of === 'rub';
  const rackNib = useRackNib();
  const { ppi } = useBoard().session.card;
  const isRoomy = useIsWide();
  const value = isRub ? rackNib.twin.size : rackNib.nib.size;
  const limits = (isRub ? TWIN_LIMITS : SIZE_LIMITS)[rackNib.unit];
  return (
    <ScrubNumber
      label="Size"
      value={value}
      onChange={isRub ? setRubSize : setNibSize}
      {...limits}
      step={isRub && rackNib.unit === 'px' ? 1 : stepOf(value, rackNib)}
      geometric
      shown={sizeInWords(value, rackNib, ppi, isRoomy)}
    />
  );
}

/** What is left of the size without pressure. */
export function ThinnestSetting() {
  const rackNib = useRackNib();
  const { ppi } = useBoard().session.card;
  const { size, thinnest } = rackNib.nib;
  return (
    <ScrubNumber
      label="Thinnest"
      value={Math.round(thinnest * 100)}
      onChange={(share) => changeNib({ thinnest: share / 100 })}
      least={0}
      most={100}
      step={1}
      shown={`${Math.round(thinnest * 100)} % · ${sizeInWords(Number((size * thinnest).toFixed(2)), rackNib, ppi, false)}`}
    />
  );
}
