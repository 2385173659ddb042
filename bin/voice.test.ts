import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { at, FOLDERS, filesIn, isMarked, parsed, type TextAt } from './texts.ts';

/** Phrases that nobody would say, each with what to say instead. */
const RULED_OUT: readonly (readonly [RegExp, string])[] = [
  [/^(Leave it|Not now)$/, 'Cancel'],
  [/^Enter it$/, 'a verb and its noun: Save bill'],
  [/^One more line$/, 'Add line'],
  [/\bStill missing\b/, 'Enter …'],
  [/^What (these books want|you see|it brought|was coded how)$/i, 'a noun phrase'],
  [/^(Make a link|Take off)$/, 'Create invitation, Remove access'],
  [/\b(Posted unread|Behind you|Came in so far|As it will come in|Here already)\b/, 'see voice.md'],
  [/\b[Pp]apers?\b(?! cup)/, 'attachment or receipt'],
  [/\b(Told apart|Set apart|Put together)\b/, 'decides, split, merge'],
  [/^Open it again$|\bTake back\b/i, 'Reopen, Undo'],
  [/\bfor a look\b/, 'until you post it'],
  [/\bcoded otherwise\b/, 'coded differently'],
  [/\b(This|That|It|”) is no \w/, 'isn’t a …'],
  [/\b(there(of|upon)|anew|meanwhile|come to nil|may it be)\b/, 'plain English'],
  [/\bsuch (lines?|stacks?|an?|proposals?|accounts?|books)\b/, 'these, a … like this'],
  [/\bWrite down\b|\bWrite a line by hand\b/, 'Record, Add'],
  [/\bspeaks? for it\b|\brests? on (it|this|that|steps)\b/, 'supports it, depends on it'],
  [/\b(tells?|telling) (its|the|them) \w* ?apart\b/, 'depends on, separates'],
  [/^(Move|Take|Turn|Write|Keep|Make|Try) (it|them)\b/, 'a verb and its noun: Move import'],
  [/^Make (a|an|the|books|new)\b|^Made (a|an|the|these)\b/, 'Create, Created'],
  [/\bNothing was kept\b/, 'Nothing was imported'],
  [/\b(come|comes|came) in\b(?! or goes)|\bcoming in\b/, 'is imported, arrives'],
  [/\bstands? (here|there|below|in|for)\b/, 'is, appears'],
  [/\bby (itself|themselves)\b/, 'automatically, on its own'],
  [/\p{L}!(\s|$)/u, 'no exclamation marks'],
];
/** Texts that machines read, and the few that stand for something else. */
const SPARED = [
  /^[\w./#:-]*$/,
  /\bselect\b|\binsert into\b|\bwhere\b/i,
  /\(such as\b|, such as\b/,
  /\|expense\|/,
];

/** What in a file nobody would say, where it stands, and what to say instead. */
function oddIn(source: ts.SourceFile): readonly string[] {
  return saidIn(source).flatMap(({ text, file, line }) =>
    RULED_OUT.filter(([phrase]) => phrase.test(text)).map(
      ([, instead]) => `${file}:${line} “${text}”: ${instead}`,
    ),
  );
}

/** The texts of a file: those of its elements, and strings that read like words. */
function saidIn(source: ts.SourceFile): readonly TextAt[] {
  const found: TextAt[] = [];
  const take = (node: ts.Node, text: string) => {
    const plain = text.replace(/\s+/g, ' ').trim();
    if (plain === '' || SPARED.some((spared) => spared.test(plain))) return;
    found.push(at(node, plain));
  };
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isTaggedTemplateExpression(node) && !isMarked(node)) return;
    if (ts.isJsxText(node) || ts.isStringLiteralLike(node)) take(node, node.text);
    else if (ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node)) {
      take(node, node.text);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

describe('the words of the application', () => {
  it('are plain English', () => {
    const odd = filesIn(FOLDERS).flatMap(oddIn);
    expect(odd).toEqual([]);
  });

  it.each([
    ['const a = <p>Leave it</p>;', 1],
    ['const a = `Still missing: ` + b;', 1],
    ['const a = <Button>Add a paper</Button>;', 1],
    ["import a from 'a paper';", 0],
    ['const a = <p>{t`Leave it`}</p>;', 1],
    [`const a = tx\`Still missing: \${b}\`;`, 1],
    ['tx.execute(sql`select papers`);', 0],
    ['const a = <p>Save bill</p>;', 0],
  ])('are looked at in %s', (code, count) => {
    expect(oddIn(parsed('a.tsx', code))).toHaveLength(count);
  });
});
