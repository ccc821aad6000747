/**
 * Where foreign data comes in: files, what a browser kept, inputs from a list. Nothing that draws or runs a piece needs
 * it.
 */
export { readEvents, readHistory } from './history-read.ts';
export { readInput } from './inputs.ts';
export { checkIntegrity, lookProblem, MAX_OBJECTS, MAX_TREE_DEPTH } from './integrity.ts';
export { bringUp, MIGRATIONS, type Migration, migrate } from './migrate.ts';
export { findDanger, MAX_TEXT, readPiece, readPieceJson, tooLarge } from './read.ts';
export { isSoundRecord, type Salvaged, salvagePiece } from './salvage.ts';
export { pieceJsonSchema } from './schema.ts';
export { toZod } from './to-zod.ts';
