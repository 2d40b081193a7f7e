import { coneOfVision, horizonOf, placeOfPoint, FRAME_WAYS, type FrameShape } from '@true-nib/core/guides';
import { boxOfPoints, growBox, uniteBoxes, type Point } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import { View } from 'react-native';
import Svg, { Circle, Line, Rect, Text } from 'react-native-svg';
import { WAY_LETTERS } from '../../render';

interface FrameMapProps {
  readonly frame: FrameShape;
  readonly page: PageSize;
  readonly colour: string;
  readonly width: number;
}

/** How many pages to either side the map shows at most: points beyond that are marked at its edge. */
const MOST = 4;

/** The page, small, with the points of a frame round it, its horizon and its cone of vision. */
export function FrameMap({ frame, page, colour, width }: FrameMapProps) {
  const sheet = { minX: 0, minY: 0, maxX: page.width, maxY: page.height };
  const points = FRAME_WAYS.flatMap((way) => {
    const place = placeOfPoint(frame.points[way]);
    return place ? [{ way, place: held(place, page) }] : [];
  });
  const whole = growBox(uniteBoxes(sheet, boxOfPoints(points.map(({ place }) => place))), page.width * 0.14);
  const height = Math.min(150, Math.max(70, (width * (whole.maxY - whole.minY)) / (whole.maxX - whole.minX)));
  const scale = Math.min(width / (whole.maxX - whole.minX), height / (whole.maxY - whole.minY));
  const on = ({ x, y }: Point): Point => ({
    x: width / 2 + (x - (whole.minX + whole.maxX) / 2) * scale,
    y: height / 2 + (y - (whole.minY + whole.maxY) / 2) * scale,
  });
  const corner = on({ x: 0, y: 0 });
  const horizon = horizonOf(frame, page);
  const cone = coneOfVision(frame, page);
  const far = width / scale;
  const ends =
    horizon && [-far, far].map((along) => on({ x: horizon.x + along * horizon.dx, y: horizon.y + along * horizon.dy }));
  return (
    <View
      className="overflow-hidden rounded-xl border border-rule bg-desk"
      aria-label="Map of the page and its points"
      role="img"
    >
      <Svg width={width} height={height}>
        <Rect x={corner.x} y={corner.y} width={page.width * scale} height={page.height * scale} fill="#ffffff" />
        {'radius' in cone && (
          <Circle
            cx={on(cone).x}
            cy={on(cone).y}
            r={cone.radius * scale}
            fill="none"
            stroke={colour}
            strokeDasharray="2 4"
          />
        )}
        {ends && (
          <Line x1={ends[0].x} y1={ends[0].y} x2={ends[1].x} y2={ends[1].y} stroke={colour} strokeDasharray="9 3" />
        )}
        {points.map(({ way, place }) => (
          <Circle key={way} cx={on(place).x} cy={on(place).y} r={4} fill={colour} />
        ))}
        {points.map(({ way, place }) => (
          <Text key={way} x={on(place).x} y={on(place).y - 8} fill={colour} fontSize={11} textAnchor="middle">
            {WAY_LETTERS[way]}
          </Text>
        ))}
      </Svg>
    </View>
  );
}

const held = ({ x, y }: Point, { width, height }: PageSize): Point => ({
  x: Math.max(-MOST * width, Math.min((MOST + 1) * width, x)),
  y: Math.max(-MOST * height, Math.min((MOST + 1) * height, y)),
});
