/** The pages of a piece, which come when somebody opens one. */
export { HandOver } from './HandOver.tsx';
export { NewPiece } from './NewPiece.tsx';
export { PiecePage, Screen } from './PiecePage.tsx';
