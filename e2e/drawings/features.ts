/**
 * Single features of SVG, each in a drawing of its own of 100 × 100, with shapes large enough that a feature that is not
 * read differs by far more than edges do.
 */
export interface Feature {
  readonly name: string;
  /** What lies in the `<svg>`, whose attributes are those of a view box of 100 × 100 unless `root` says others. */
  readonly inside: string;
  readonly root?: string;
  /** What stands before the `<svg>`. */
  readonly head?: string;
  /** It cannot be taken as it is, which is told. */
  readonly told?: string;
}

const STAR = 'M50 5L61 40H98L68 62L79 97L50 75L21 97L32 62L2 40H39Z';
const stops =
  '<stop offset="0.1" stop-color="#c33"/><stop offset="0.5" stop-color="#fd5"/><stop offset="0.9" stop-color="#36a"/>';
const filled = (gradient: string, shape = '<rect x="5" y="15" width="90" height="70" fill="url(#g)"/>') =>
  `<defs>${gradient}</defs>${shape}`;
const linear = (a: string, shape?: string) =>
  filled(`<linearGradient id="g" ${a}>${stops}</linearGradient>`, shape);
const radial = (a: string, shape?: string) =>
  filled(`<radialGradient id="g" ${a}>${stops}</radialGradient>`, shape);
const stroked = (a: string) =>
  `<path d="M15 80L30 20L50 70L80 25L85 80" fill="#ddd" stroke="#284" stroke-width="12" ${a}/>`;
/** A picture of 32 × 16 px with four colours. */
const DOT =
  'iVBORw0KGgoAAAANSUhEUgAAACAAAAAQCAIAAAD4YuoOAAAALElEQVR4nGM4YWNDEjJKWUASYhi1YNSCIWDBr0sBJCGNHjeS0KgFoxYMAQsA0uPGH9Tb1C0AAAAASUVORK5CYII=';

export const FEATURES: readonly Feature[] = [
  { name: 'rectangle', inside: '<rect x="10" y="20" width="70" height="50" fill="#c44"/>' },
  { name: 'round rectangle', inside: '<rect x="10" y="20" width="70" height="50" rx="15" fill="#c44"/>' },
  { name: 'two radii', inside: '<rect x="10" y="20" width="70" height="50" rx="30" ry="10" fill="#c44"/>' },
  { name: 'radius too large', inside: '<rect x="10" y="20" width="80" height="30" rx="60" fill="#c44"/>' },
  { name: 'radius across only', inside: '<rect x="10" y="20" width="80" height="60" ry="25" fill="#c44"/>' },
  {
    name: 'circle and ellipse',
    inside: '<circle cx="30" cy="50" r="25"/><ellipse cx="75" cy="50" rx="20" ry="40" fill="#36a"/>',
  },
  { name: 'ellipse of one radius', inside: '<ellipse cx="50" cy="50" rx="35" fill="#36a"/>' },
  {
    name: 'polyline, filled',
    inside: '<polyline points="10,10 90,20 50,90" fill="#36a" stroke="#000" stroke-width="4"/>',
  },
  { name: 'points run together', inside: '<polygon points="10-0 90,20-0,90.5" fill="#36a"/>' },
  { name: 'polygon of odd numbers', inside: '<polygon points="10 10 90 20 50 90 7" fill="#36a"/>' },
  { name: 'line', inside: '<line x1="10" y1="10" x2="90" y2="80" stroke="#c44" stroke-width="15"/>' },
  { name: 'even-odd', inside: `<path fill-rule="evenodd" d="${STAR}M50 20L85 85H15Z" fill="#36a"/>` },
  {
    name: 'arcs and short curves',
    inside: '<path d="M10 50a40 40 0 1 1 40 40q20-30 0-40t-10-10c5 5 10 5 5 15s-8 9-8 9z" fill="#36a"/>',
  },
  { name: 'path that breaks off', inside: '<path d="M10 10H90V90H10L50 50 Q 3" fill="#36a"/>' },
  { name: 'empty attributes', inside: '<path d=""/><rect x="10" y="" width="80" height="50" fill="#36a"/>' },
  {
    name: 'translate run together',
    inside: '<rect x="394" y="509" width="80" height="60" fill="#c44" transform="translate(-384-489)"/>',
  },
  {
    name: 'several transforms',
    inside: '<rect width="40" height="30" fill="#c44" transform="translate(40,20)rotate(30) scale(1.5 .8)"/>',
  },
  {
    name: 'matrix',
    inside: '<rect width="40" height="30" fill="#c44" transform="matrix(1.2.5-.6 1.4 30 10)"/>',
  },
  {
    name: 'turned about a point',
    inside: '<rect x="20" y="30" width="60" height="40" fill="#c44" transform="rotate(35 50 50)"/>',
  },
  {
    name: 'skews',
    inside: '<rect x="10" y="20" width="50" height="30" fill="#c44" transform="skewX(25) skewY(10)"/>',
  },
  {
    name: 'mirrored',
    inside: `<g transform="translate(100) scale(-1 1)"><path d="M10 10H80L30 90Z" fill="#c44"/></g>`,
  },
  {
    name: 'transform that is not sound',
    inside: '<rect x="10" y="10" width="60" height="60" fill="#c44" transform="translate(10) spin(3)"/>',
    told: 'the transform',
  },
  {
    name: 'transform of CSS',
    inside:
      '<rect x="20" y="10" width="50" height="30" fill="#c44" style="transform:translate(10px,20px) rotate(0.1turn)"/>',
  },
  {
    name: 'transform-origin',
    inside:
      '<rect x="20" y="20" width="60" height="30" fill="#c44" transform="rotate(40)" transform-origin="50 50"/>',
  },
  {
    name: 'transform-origin in words',
    inside:
      '<rect x="20" y="20" width="60" height="30" fill="#c44" style="transform:rotate(40deg);transform-origin:center"/>',
  },
  {
    name: 'uneven scale with a stroke',
    inside:
      '<g transform="scale(2 .7)"><circle cx="25" cy="70" r="18" fill="#ddd" stroke="#c44" stroke-width="9"/></g>',
  },
  {
    name: 'view box away from 0',
    root: 'viewBox="-50 200 100 100"',
    inside: '<rect x="-40" y="210" width="50" height="70" fill="#c44"/>',
  },
  {
    name: 'beyond the page',
    inside: '<circle cx="90" cy="90" r="40" fill="#c44"/><rect x="-30" width="60" height="30"/>',
  },
  {
    name: 'svg in it',
    inside:
      '<svg x="20" y="10" width="60" height="80" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5" fill="#c44"/></svg>',
  },
  {
    name: 'svg in it, cut off',
    inside: '<svg x="20" y="10" width="50" height="50"><circle cx="50" cy="50" r="40" fill="#c44"/></svg>',
  },
  {
    name: 'svg in it, sliced',
    inside:
      '<svg x="10" y="10" width="80" height="40" viewBox="0 0 10 10" preserveAspectRatio="xMinYMax slice"><circle cx="5" cy="5" r="5" fill="#c44"/></svg>',
  },
  {
    name: 'svg in it, stretched',
    inside:
      '<svg x="10" y="30" width="80" height="40" viewBox="0 0 10 10" preserveAspectRatio="none"><circle cx="5" cy="5" r="5" fill="#c44"/></svg>',
  },
  {
    name: 'symbol',
    inside:
      '<symbol id="s" viewBox="0 0 10 10"><path d="M0 0H10L5 10Z" fill="#c44"/></symbol><use href="#s" x="10" y="10" width="40" height="40"/><use href="#s" x="50" y="50" width="50" height="50"/>',
  },
  {
    name: 'use',
    inside:
      '<defs><g id="s"><circle r="15"/></g></defs><use href="#s" x="30" y="30" fill="#c44"/><use xlink:href="#s" transform="translate(70 60) scale(1.6)" fill="#36a"/>',
  },
  {
    name: 'per cent',
    inside: '<rect x="10%" y="20%" width="50%" height="60%" fill="#c44"/><circle cx="70%" cy="50%" r="20%"/>',
  },
  {
    name: 'em',
    inside: '<g font-size="20"><rect x="1em" y="1em" width="3em" height="2em" fill="#c44"/></g>',
  },
  { name: 'units', inside: '<rect x="2mm" y="10pt" width="2cm" height=".5in" fill="#c44"/>' },
  {
    name: 'colours',
    inside:
      '<rect width="50" height="50" fill="rgb(100%,20%,0%)"/><rect x="50" width="50" height="50" fill="hsl(200 60% 40%)"/><rect y="50" width="50" height="50" fill="rebeccapurple"/><rect x="50" y="50" width="50" height="50" fill="#0a08"/>',
  },
  {
    name: 'currentColor',
    inside: '<g color="#c44"><rect x="10" y="10" width="80" height="60" fill="currentColor"/></g>',
  },
  {
    name: 'a colour instead of a gradient that is not there',
    inside: '<rect x="10" y="10" width="80" height="60" fill="url(#no) #c44"/>',
    told: 'not there',
  },
  {
    name: 'style and importance',
    inside:
      '<style>rect{fill:#36a !important} .k{fill:#0a0}</style><rect class="k" x="10" y="10" width="80" height="60" style="fill:#c44"/>',
  },
  {
    name: 'selectors of several parts',
    inside:
      '<style>g.a>rect.b{fill:#36a} g rect{fill:#0a0} rect{fill:#c44}</style><g class="a"><rect class="b" width="50" height="90"/></g><g><rect x="50" width="50" height="90"/></g>',
  },
  {
    name: 'opacity of a group',
    inside:
      '<g opacity=".5"><rect x="10" y="10" width="60" height="60" fill="#c44"/><circle cx="65" cy="65" r="30" fill="#36a"/></g>',
  },
  {
    name: 'opacities in one another',
    inside:
      '<g opacity=".7"><g opacity=".5"><rect x="10" y="10" width="60" height="60" fill="#c44"/><circle cx="65" cy="65" r="30" fill="#36a"/></g><rect x="40" y="5" width="20" height="90"/></g>',
  },
  {
    name: 'opacity of fill and stroke',
    inside: '<circle cx="50" cy="50" r="35" fill="#c44" stroke="#36a" stroke-width="20" opacity=".5"/>',
  },
  {
    name: 'fill-opacity with a stroke',
    inside:
      '<circle cx="50" cy="50" r="35" fill="#c44" fill-opacity=".3" stroke="#36a" stroke-width="20" stroke-opacity=".6"/>',
  },
  {
    name: 'blend',
    inside:
      '<circle cx="35" cy="50" r="30" fill="#c44"/><circle cx="65" cy="50" r="30" fill="#fd5" style="mix-blend-mode:multiply"/>',
  },
  {
    name: 'blend of a group',
    inside:
      '<rect width="100" height="50" fill="#36a"/><g style="mix-blend-mode:screen"><circle cx="35" cy="50" r="30" fill="#c44"/><circle cx="65" cy="50" r="30" fill="#853"/></g>',
  },
  { name: 'linear gradient', inside: linear('') },
  { name: 'linear gradient across', inside: linear('x1="0" y1="0" x2="1" y2="1"') },
  {
    name: 'linear gradient of the drawing',
    inside: linear('gradientUnits="userSpaceOnUse" x1="20" y1="20" x2="70" y2="60"'),
  },
  {
    name: 'linear gradient, bent',
    inside: linear('gradientTransform="skewX(40) scale(1 .5)" x2="0" y2="1"'),
  },
  { name: 'linear gradient, mirrored on', inside: linear('spreadMethod="reflect" x1=".4" x2=".6"') },
  { name: 'linear gradient, repeated', inside: linear('spreadMethod="repeat" x1=".4" x2=".6"') },
  {
    name: 'gradient of a turned thing',
    inside: linear(
      'x1="0" y1="0" x2="1" y2="1"',
      '<rect x="20" y="30" width="60" height="40" fill="url(#g)" transform="rotate(35 50 50)"/>',
    ),
  },
  {
    name: 'gradient of a skewed thing',
    inside: radial('', '<rect x="20" y="30" width="50" height="40" fill="url(#g)" transform="skewX(25)"/>'),
  },
  { name: 'radial gradient', inside: radial('') },
  {
    name: 'radial gradient of the drawing',
    inside: radial('gradientUnits="userSpaceOnUse" cx="40" cy="40" r="50"'),
  },
  { name: 'radial gradient with a spot', inside: radial('fx=".2" fy=".3"') },
  { name: 'radial gradient with a spot outside', inside: radial('fx="1.2" fy=".5" r=".4"') },
  { name: 'radial gradient with a wide spot', inside: radial('fr=".2"') },
  {
    name: 'radial gradient, an ellipse',
    inside: radial(
      'gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="translate(50 50) rotate(30) scale(50 20)"',
    ),
  },
  { name: 'radial gradient, repeated', inside: radial('spreadMethod="repeat" r=".2"') },
  { name: 'radial gradient, mirrored on', inside: radial('spreadMethod="reflect" r=".2" fx=".45"') },
  {
    name: 'gradient that refers to another',
    inside: filled(
      `<linearGradient id="h">${stops}</linearGradient><linearGradient id="g" xlink:href="#h" x2="0" y2="1"/>`,
    ),
  },
  {
    name: 'gradient of one stop',
    inside: filled('<linearGradient id="g"><stop stop-color="#c44"/></linearGradient>'),
  },
  {
    name: 'stops with opacity',
    inside: filled(
      '<linearGradient id="g"><stop stop-color="#c44"/><stop offset="1" stop-color="#36a" stop-opacity="0"/></linearGradient>',
    ),
  },
  {
    name: 'gradient along a stroke',
    inside: filled(
      `<linearGradient id="g">${stops}</linearGradient>`,
      '<circle cx="50" cy="50" r="32" fill="none" stroke="url(#g)" stroke-width="22"/>',
    ),
  },
  {
    name: 'elliptic gradient along a stroke',
    inside: filled(
      `<radialGradient id="g" gradientUnits="userSpaceOnUse" r="1" gradientTransform="translate(50 50) scale(60 30)">${stops}</radialGradient>`,
      '<circle cx="50" cy="50" r="32" fill="none" stroke="url(#g)" stroke-width="22"/>',
    ),
  },
  {
    name: 'caps',
    inside:
      '<path d="M20 20H80" stroke="#c44" stroke-width="16" stroke-linecap="round"/><path d="M20 50H80" stroke="#c44" stroke-width="16" stroke-linecap="square"/><path d="M20 80H80" stroke="#c44" stroke-width="16"/>',
  },
  {
    name: 'dot of a round cap',
    inside: '<path d="M30 50h0M70 50z" stroke="#c44" stroke-width="30" stroke-linecap="round"/>',
  },
  { name: 'joins', inside: stroked('stroke-linejoin="round"') },
  { name: 'bevels', inside: stroked('stroke-linejoin="bevel"') },
  { name: 'miter limit of the standard', inside: stroked('') },
  { name: 'a wide miter limit', inside: stroked('stroke-miterlimit="20"') },
  { name: 'dashes', inside: stroked('stroke-dasharray="14 6" stroke-dashoffset="5"') },
  {
    name: 'dashes round a circle',
    inside:
      '<circle cx="50" cy="50" r="35" fill="none" stroke="#284" stroke-width="20" stroke-dasharray="60 1000"/>',
  },
  { name: 'three dashes', inside: stroked('stroke-dasharray="14,6,3" stroke-linecap="round"') },
  { name: 'stroke below the fill', inside: stroked('paint-order="stroke"') },
  {
    name: 'a width that does not grow',
    root: 'viewBox="0 0 256 256"',
    inside:
      '<g transform="scale(10)"><rect x="5" y="5" width="15" height="12" fill="#ddd" stroke="#c44" stroke-width="12" vector-effect="non-scaling-stroke"/></g>',
  },
  {
    name: 'clip path',
    inside:
      '<clipPath id="c"><circle cx="50" cy="50" r="35"/></clipPath><rect width="100" height="60" fill="#c44" clip-path="url(#c)"/>',
  },
  {
    name: 'clip path in parts of the box',
    inside:
      '<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".5"/></clipPath><rect x="10" y="20" width="70" height="60" fill="#c44" clip-path="url(#c)"/>',
  },
  {
    name: 'clip path with a rule',
    inside: `<clipPath id="c"><path clip-rule="evenodd" d="${STAR}M50 30L70 70H30Z"/></clipPath><rect width="100" height="100" fill="#c44" clip-path="url(#c)"/>`,
  },
  {
    name: 'clip path of a turned group',
    inside:
      '<clipPath id="c"><rect x="20" y="20" width="60" height="60"/></clipPath><g transform="rotate(30 50 50)" clip-path="url(#c)"><rect width="100" height="100" fill="#c44"/></g>',
  },
  {
    name: 'clip path, clipped',
    inside:
      '<clipPath id="d"><rect width="100" height="50"/></clipPath><clipPath id="c" clip-path="url(#d)"><circle cx="50" cy="50" r="40"/></clipPath><rect width="100" height="100" fill="#c44" clip-path="url(#c)"/>',
  },
  {
    name: 'mask that is white',
    inside:
      '<mask id="m"><circle cx="50" cy="50" r="40" fill="#fff"/></mask><rect width="100" height="60" fill="#c44" mask="url(#m)"/>',
  },
  {
    name: 'mask by brightness',
    inside: `<defs><linearGradient id="g"><stop stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient></defs><mask id="m"><rect width="100" height="100" fill="url(#g)"/></mask><rect width="100" height="60" fill="#c44" mask="url(#m)"/>`,
    told: 'a mask by brightness',
  },
  {
    name: 'pattern',
    inside:
      '<pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse"><circle cx="10" cy="10" r="8" fill="#c44"/></pattern><rect width="100" height="60" fill="url(#p)"/>',
    told: 'a pattern',
  },
  {
    name: 'filter',
    inside:
      '<filter id="f"><feGaussianBlur stdDeviation="8"/></filter><rect x="30" y="30" width="40" height="40" fill="#c44" filter="url(#f)"/>',
    told: 'a filter',
  },
  {
    name: 'markers',
    inside:
      '<marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="4" markerHeight="4" orient="auto"><path d="M0 0L10 5L0 10z" fill="#c44"/></marker><path d="M15 80L50 20L85 80" fill="none" stroke="#36a" stroke-width="6" marker-start="url(#m)" marker-mid="url(#m)" marker-end="url(#m)"/>',
  },
  {
    name: 'markers of a fixed size',
    inside:
      '<marker id="m" refX="10" refY="10" markerWidth="20" markerHeight="20" markerUnits="userSpaceOnUse" orient="45"><rect width="20" height="20" fill="#c44"/></marker><polyline points="20,70 50,30 80,70" fill="none" stroke="#36a" stroke-width="6" marker-mid="url(#m)" marker-end="url(#m)"/>',
  },
  {
    name: 'switch',
    inside:
      '<switch><rect systemLanguage="xx" width="100" height="100" fill="#c44"/><circle cx="50" cy="50" r="40" fill="#36a"/><rect width="50" height="50"/></switch>',
  },
  {
    name: 'picture',
    inside: `<image x="10" y="20" width="80" height="40" href="data:image/png;base64,${DOT}"/>`,
  },
  {
    name: 'picture, turned and fitted',
    inside: `<image x="20" y="20" width="60" height="60" preserveAspectRatio="xMidYMin meet" xlink:href="data:image/png;base64,${DOT}" transform="rotate(30 50 50)"/>`,
  },
  {
    name: 'seen in what is hidden',
    inside:
      '<g visibility="hidden"><rect width="50" height="50"/><rect x="20" y="20" width="70" height="70" fill="#c44" visibility="visible"/></g>',
  },
  {
    name: 'not displayed',
    inside:
      '<g display="none"><rect width="90" height="90"/></g><rect x="20" y="20" width="50" height="50" fill="#c44"/>',
  },
  {
    name: 'entities',
    head: '<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "no" [<!ENTITY red "#c44"><!ENTITY box "M10 10H90V70H10z">]>',
    inside: '<path d="&box;" fill="&red;"/>',
  },
  {
    name: 'a prefix of its own',
    head: '',
    root: 'viewBox="0 0 100 100" xmlns:s="http://www.w3.org/2000/svg"',
    inside: '<s:rect x="10" y="10" width="70" height="70" fill="#c44"/>',
  },
];

export function drawingOf({ head = '', root = 'viewBox="0 0 100 100"', inside }: Feature): string {
  return `${head}<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="256" height="256" ${root}>${inside}</svg>`;
}
