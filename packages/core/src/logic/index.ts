export { drawWeighted } from './odds.ts';
export { compileValue, mapRange, type Reader, toNumber, type ValueSource } from './values.ts';
