import { useBoard, useDesk } from '../../board';
import { Faint, PictureChoice } from '../../look';
import { fitZoom } from '../../render';
import { SIZE_PICTURES } from './pictures';
import { usePressDesk } from './pressStore';

/** CSS px that a phone is wide (common practice). */
const PHONE = 390;
const NEARLY = 0.005;

/** The page as large as it will be seen: in print, reduced, on a phone. */
export function SeenSizes() {
  const { hand, picture, session } = useBoard();
  const scale = usePressDesk((state) => state.scale);
  const inMm = useDesk(({ pxPerMm }) => pxPerMm);
  const zoom = useDesk((desk) => desk.zoom);
  const { size } = session.page;
  const printed = (inMm * 25.4) / size.ppi;
  const at = scale === 1 ? 0.6 : scale;
  const sizes = [
    { value: 'whole', label: 'Whole', picture: SIZE_PICTURES.whole, zoom: fitZoom(size, picture.free) },
    { value: 'print', label: 'In print', picture: SIZE_PICTURES.large, zoom: printed },
    { value: 'reduced', label: `${Math.round(100 * at)} %`, picture: SIZE_PICTURES.small, zoom: at * printed },
    { value: 'phone', label: 'Phone', picture: SIZE_PICTURES.phone, zoom: PHONE / size.width },
  ];
  return (
    <>
      <PictureChoice
        label="Seen as large as"
        value={sizes.findLast((one) => Math.abs(one.zoom / zoom - 1) < NEARLY)?.value}
        options={sizes}
        isLines
        onChange={(value) => {
          const chosen = sizes.find((one) => one.value === value);
          if (!chosen) return;
          hand.zoomTo(chosen.zoom);
          hand.centre();
        }}
      />
      <Faint>As large as it lies on the desk, once the screen is measured by a ruler.</Faint>
    </>
  );
}
