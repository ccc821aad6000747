/** Files as they are handed over: loaded when somebody hands one over, or has files that are to be looked at. */
export { fileProblem, writeTickpack } from '@apple-tick/core/formats';
