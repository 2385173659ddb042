import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { at, filesIn, keysIn, nodesOf, parsed, type TextAt } from './texts.ts';
import { renewed } from './words.ts';

/** Attributes that people see or hear. */
const SEEN =
  /^(title|label|placeholder|alt|heading|what|aria-(label|description|roledescription|placeholder))$/;
/** A word; names of what never changes its name are none. */
const WORD = /\p{L}{2,}/u;
const NAMES = /^(zubrell|Ctrl|Alt|Enter|Esc|Shift|K)$/i;

/** What people see of a file and the catalogue doesn’t know. */
function unmarkedIn(source: ts.SourceFile): readonly TextAt[] {
  return [...nodesOf(source)].flatMap((node) => {
    if (ts.isJsxText(node)) return wordsOf(node, node.text);
    if (!ts.isJsxAttribute(node) || !SEEN.test(node.name.getText())) return [];
    return valuesOf(node.initializer).flatMap((value) =>
      ts.isStringLiteralLike(value)
        ? wordsOf(value, value.text)
        : ts.isTemplateExpression(value)
          ? wordsOf(value, [value.head, ...value.templateSpans].map(textOf).join(' '))
          : [],
    );
  });
}

const textOf = (part: ts.TemplateHead | ts.TemplateSpan) =>
  ts.isTemplateSpan(part) ? part.literal.text : part.text;

const wordsOf = (node: ts.Node, text: string): TextAt[] =>
  WORD.test(text) && !NAMES.test(text.trim()) ? [at(node, text.trim())] : [];

/** What an attribute may be, whatever decides about it. */
function valuesOf(value: ts.Node | undefined): ts.Node[] {
  if (value === undefined) return [];
  if (ts.isJsxExpression(value) || ts.isParenthesizedExpression(value)) {
    return valuesOf(value.expression);
  }
  if (ts.isConditionalExpression(value)) {
    return [...valuesOf(value.whenTrue), ...valuesOf(value.whenFalse)];
  }
  return [value];
}

describe('the catalogue', () => {
  it('has every text that screens show', () => {
    const unmarked = filesIn(['web/src']).flatMap(unmarkedIn);
    expect(unmarked.map(({ file, line, text }) => `${file}:${line} ${text}`)).toEqual([]);
  });

  it.each([
    ['const a = <p>Save bill</p>;', 1],
    ['const a = <Button title="Save bill" />;', 1],
    ["const a = <Button title={isBill ? 'Save bill' : t`Save invoice`} />;", 1],
    [`const a = <p title={\`\${count} lines\`} className="small quiet">{t\`Save bill\`}</p>;`, 1],
    [`const a = <p title={t\`\${count} lines\`}>{t\`Save bill\`}, {name}</p>;`, 0],
  ])('would miss what %s shows', (code, count) => {
    expect(unmarkedIn(parsed('a.tsx', code))).toHaveLength(count);
  });

  it('has a key for each text, with a place for each value', () => {
    const keys = keysIn(
      parsed('a.tsx', `const a = [t\`Save bill\`, tx\`By \${name}, \${<b>{t\`paid\`}</b>}\`];`),
    );
    expect(keys.map(({ text }) => text)).toEqual(['Save bill', 'By {0}, {1}', 'paid']);
  });

  it('keeps what is translated, adds what is new and leaves out what is gone', () => {
    const { language, texts, counted } = renewed({
      language: 'de',
      texts: { Cancel: 'Abbrechen', 'Was here once': 'War einmal da' },
      counted: { lines: { one: 'Zeile', other: 'Zeilen' } },
    });
    expect(language).toBe('de');
    expect(texts.Cancel).toBe('Abbrechen');
    expect(texts['The amount is missing.']).toBe('The amount is missing.');
    expect(texts).toMatchObject({ March: 'March' });
    expect(texts).not.toHaveProperty('Was here once');
    expect(counted.lines).toEqual({ one: 'Zeile', other: 'Zeilen' });
    expect(counted.entries).toEqual({ one: 'entry', other: 'entries' });
  });
});
