import { later } from '../../look';
import type { BarsProps } from './Bars';

/** Charts come with libraries that a full page should not wait for. */
export const BarsLater = later<BarsProps>(async () => (await import('./Bars')).Bars);
