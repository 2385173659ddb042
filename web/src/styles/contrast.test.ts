import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

const styles = readFileSync(new URL('app.scss', import.meta.url), 'utf8');

/** The colours of a theme, by their names. */
function coloursOf(selector: string): ReadonlyMap<string, string> {
  const [, rest = ''] = styles.split(`${selector} {`);
  const [block = ''] = rest.split('}');
  const found = [...block.matchAll(/--([\w-]+): (#\w+);/g)];
  return new Map(found.map(([, name = '', hex = '']) => [name, hex]));
}

/** Relative luminance of a colour, by WCAG 2.2. */
function luminanceOf(hex: string): number {
  const long = hex.length === 4 ? hex.replace(/\w/g, '$&$&') : hex;
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => {
    const part = Number.parseInt(long.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

function contrast(one: string, other: string): number {
  const [dark = 0, light = 0] = [luminanceOf(one), luminanceOf(other)].sort((a, b) => a - b);
  return (light + 0.05) / (dark + 0.05);
}

const TEXTS = ['ink', 'ink-2', 'ink-3', 'mulberry', 'saffron', 'brick', 'iris'];
const SURFACES = ['paper', 'sheet', 'field', 'stack'];
/** Each text or mark, what it stands on, and the least contrast: WCAG 2.2 AA. */
const PAIRS: readonly (readonly [string, string, number])[] = [
  ...SURFACES.flatMap((surface) => TEXTS.map((text) => [text, surface, 4.5] as const)),
  ...SURFACES.flatMap((surface) =>
    ['edge', 'half-moon', 'slate'].map((mark) => [mark, surface, 3] as const),
  ),
  ...['ink', 'ink-2', 'mulberry'].map((text) => [text, 'mulberry-soft', 4.5] as const),
  ['main-ink', 'mulberry', 4.5],
  ['saffron', 'saffron-soft', 4.5],
  ['brick', 'brick-soft', 4.5],
];

describe.each([':root', '[data-bs-theme="dark"]'])('the colours of %s', (selector) => {
  const colours = coloursOf(selector);
  const shade = (name: string) => colours.get(name) ?? `no ${name}`;

  it.each(PAIRS)('%s stands out on %s by %d', (mark, surface, least) => {
    expect(contrast(shade(mark), shade(surface))).toBeGreaterThanOrEqual(least);
  });
});
