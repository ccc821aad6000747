export { importSvg, type SvgImport } from './svg-import.ts';
