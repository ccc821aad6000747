/** The parts of the CSS parser that are used, without its tables of all properties; their types are the whole one's. */
declare module 'css-tree/parser' {
  export { parse as default } from 'css-tree';
}
declare module 'css-tree/generator' {
  export { generate as default } from 'css-tree';
}
