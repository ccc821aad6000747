/**
 * What the import knows of SVG, in one place: what it reads, and what draws nothing and so is passed over. All else that
 * a file has is told.
 */

/** Elements that are read. */
export const ELEMENTS: ReadonlySet<string> = new Set([
  ...['svg', 'g', 'a', 'switch', 'defs', 'symbol', 'use', 'style', 'clipPath', 'mask', 'marker'],
  ...['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'text', 'tspan', 'image'],
  ...['linearGradient', 'radialGradient', 'stop'],
]);
/** Nothing is made of them; what they are used for is told, or painted. */
export const NAMED_ONLY: ReadonlySet<string> = new Set(['filter', 'pattern']);
/** What lies in a filter or a pattern: let through, so that the browser can paint what has one. */
export const FILTERS: ReadonlySet<string> = new Set([
  ...['feBlend', 'feColorMatrix', 'feComponentTransfer', 'feComposite', 'feConvolveMatrix', 'feFlood'],
  ...['feDiffuseLighting', 'feDisplacementMap', 'feDistantLight', 'feDropShadow', 'feFuncA', 'feFuncB'],
  ...['feFuncG', 'feFuncR', 'feGaussianBlur', 'feMerge', 'feMergeNode', 'feMorphology', 'feOffset'],
  ...['fePointLight', 'feSpecularLighting', 'feSpotLight', 'feTile', 'feTurbulence'],
]);
export const FILTER_ATTRIBUTES: readonly string[] = [
  ...['in', 'in2', 'result', 'stdDeviation', 'values', 'type', 'mode', 'operator', 'k1', 'k2', 'k3', 'k4'],
  ...['radius', 'order', 'kernelMatrix', 'divisor', 'bias', 'targetX', 'targetY', 'edgeMode', 'scale', 'z'],
  ...['preserveAlpha', 'surfaceScale', 'diffuseConstant', 'specularConstant', 'specularExponent', 'azimuth'],
  ...['elevation', 'pointsAtX', 'pointsAtY', 'pointsAtZ', 'limitingConeAngle', 'xChannelSelector', 'seed'],
  ...['yChannelSelector', 'baseFrequency', 'numOctaves', 'stitchTiles', 'filterUnits', 'primitiveUnits'],
  ...['tableValues', 'slope', 'intercept', 'amplitude', 'exponent', 'flood-color', 'flood-opacity'],
  ...['lighting-color', 'color-interpolation-filters', 'patternUnits', 'patternContentUnits'],
  ...['patternTransform', 'mask-type'],
];
/** Taken away without a word: notes of drawing programs, which draw nothing. */
export const UNSEEN: ReadonlySet<string> = new Set([
  ...[
    'title',
    'desc',
    'metadata',
    'namedview',
    'perspective',
    'guide',
    'grid',
    'page',
    'pgf',
    'view',
    'cursor',
  ],
  ...[
    'script',
    'midPointStop',
    'path-effect',
    'RDF',
    'variables',
    'sfw',
    'adobe_illustrator_pgf',
    'switch-data',
  ],
]);
/** Those of them that are told nevertheless: they could do something elsewhere. */
export const TOLD: ReadonlySet<string> = new Set(['script']);

/** Attributes that say where and what; what is said of painting is in `PROPERTIES`. */
const PLACES = [
  ...['id', 'class', 'style', 'viewBox', 'preserveAspectRatio', 'href', 'xlink:href', 'inkscape:label'],
  ...['x', 'y', 'width', 'height', 'rx', 'ry', 'cx', 'cy', 'r', 'fx', 'fy', 'fr', 'x1', 'y1', 'x2', 'y2'],
  ...['d', 'points', 'dx', 'dy', 'offset', 'gradientUnits', 'gradientTransform', 'spreadMethod'],
  ...['clipPathUnits', 'maskUnits', 'maskContentUnits', 'systemLanguage'],
  ...['refX', 'refY', 'markerWidth', 'markerHeight', 'markerUnits', 'orient'],
];

/** Painting, as an attribute or in a style: what children take over, and what is an element's own. */
export const INHERITED = [
  ...(['fill', 'fill-opacity', 'fill-rule', 'clip-rule', 'color', 'visibility', 'paint-order'] as const),
  ...(['stroke', 'stroke-width', 'stroke-opacity', 'stroke-linecap', 'stroke-linejoin'] as const),
  ...(['stroke-miterlimit', 'stroke-dasharray', 'stroke-dashoffset'] as const),
  ...(['marker-start', 'marker-mid', 'marker-end', 'marker'] as const),
  ...(['font-family', 'font-size', 'font-weight', 'text-anchor', 'font-style'] as const),
  ...(['letter-spacing', 'text-decoration', 'text-decoration-line', 'text-transform'] as const),
] as const;
export const OWN = [
  ...(['opacity', 'display', 'stop-color', 'stop-opacity', 'overflow'] as const),
  ...(['clip-path', 'mask', 'filter'] as const),
  ...(['transform', 'transform-origin', 'transform-box', 'vector-effect', 'mix-blend-mode'] as const),
  ...(['mask-type'] as const),
] as const;
export type PaintProperty = (typeof INHERITED)[number] | (typeof OWN)[number];
export const PROPERTIES: ReadonlySet<string> = new Set([...INHERITED, ...OWN]);

export const ATTRIBUTES: readonly string[] = [...PLACES, ...PROPERTIES];

/** Attributes and properties that change nothing of a picture that stands still. */
const SILENT: ReadonlySet<string> = new Set([
  // What the file says of itself.
  ...['version', 'baseProfile', 'role', 'lang', 'type', 'media', 'title', 'nonce', 'space'],
  ...['contentScriptType', 'contentStyleType', 'zoomAndPan', 'externalResourcesRequired'],
  ...['requiredFeatures', 'requiredExtensions', 'color-profile', 'enable-background'],
  // How finely it is painted, and what happens to it under the pointer or in time.
  ...['shape-rendering', 'color-rendering', 'text-rendering', 'buffered-rendering', 'isolation'],
  ...['tabindex', 'focusable', 'target', 'rel', 'pointer-events', 'cursor', 'user-select', 'will-change'],
  ...['transition', 'animation', 'animation-name', 'animation-duration', 'animation-delay'],
  // Of filters that are not there, and of boxes, which shapes have none of.
  ...['flood-color', 'flood-opacity', 'lighting-color', 'color-interpolation-filters'],
  ...['background', 'background-color', 'border', 'margin', 'padding', 'position', 'float'],
  ...['width', 'height', 'max-width', 'max-height', 'min-width', 'min-height', 'overflow-x', 'overflow-y'],
  ...['-webkit-print-color-adjust', 'text-overflow', 'text-indent', 'text-align', 'line-height'],
  ...['shape-padding', 'shape-margin', 'inline-size', 'block-progression', 'white-space'],
  // Notes of drawing programs, written without their prefix.
  ...['nodetypes', 'solid-color', 'solid-opacity', 'stockid', 'label', 'collect', 'connector-curvature'],
  // How letters are chosen from a font that has several of each.
  ...['font-variant-ligatures', 'font-variant-numeric', 'font-variant-position', 'font-feature-settings'],
  ...['font-variant-alternates', 'font-variant-east-asian', 'font-variation-settings', 'font-kerning'],
  ...['text-decoration-style', 'text-decoration-color', 'text-orientation', 'unicode-bidi'],
]);
const NORMAL = /^(normal|inherit|initial|auto|none)$/;
/** What they have to be for nothing to be lost: each as it is when nothing is said. */
const HARMLESS: Readonly<Record<string, RegExp>> = {
  'word-spacing': /^(normal|0(px)?|0%)$/,
  'font-variant': NORMAL,
  'font-variant-caps': NORMAL,
  'font-stretch': NORMAL,
  'font-size-adjust': NORMAL,
  font: /^(inherit|initial)$/,
  kerning: /^(auto|0)$/,
  'writing-mode': /^(lr|lr-tb|horizontal-tb)$/,
  direction: /^ltr$/,
  'dominant-baseline': /^(auto|alphabetic|no-change|use-script)$/,
  'baseline-shift': /^(baseline|0(px|%)?)$/,
  rotate: /^(0|none)$/,
  'mask-mode': /^match-source$/,
  'image-rendering': /^(auto|smooth|optimizeQuality|optimizeSpeed)$/,
  'color-interpolation': /^(auto|sRGB)$/i,
  clip: NORMAL,
};

/** Whether an attribute or property that is not read may be passed over: it draws nothing, or says what holds anyway. */
export function isHarmless(name: string, value: string): boolean {
  const harmless = HARMLESS[name];
  if (harmless) return harmless.test(value.trim());
  // Of a drawing program or of a page's scripts: with a prefix, or one of CSS's own.
  if (/^(xmlns|data-|aria-|-)/.test(name) || name.includes(':')) return true;
  return SILENT.has(name) || value.trim() === '';
}
