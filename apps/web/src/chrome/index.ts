export { Bench } from './Bench';
export { BenchColumn } from './BenchColumn';
export { Navigator } from './Navigator';
export { RulerSheet } from './RulerSheet';
export { SideColumn } from './SideColumn';
export { StatusLine } from './StatusLine';
export { Strip } from './Strip';
export { generalCommands, generalHolds, historyCommands } from './commands';
export { useThumbnail } from './useThumbnail';
