// The parser and the walker alone: the whole package brings the grammar of every property along.
declare module 'css-tree/parser' {
  export { parse as default } from 'css-tree';
}
declare module 'css-tree/walker' {
  export { walk as default } from 'css-tree';
}
