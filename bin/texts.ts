import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

const root = join(import.meta.dirname, '..');
/** Where texts stand that people read. */
export const FOLDERS = ['core/src', 'contract/src', 'server/src', 'web/src', 'practice-bank/src'];
/** What marks a text of the catalogue. */
const MARKS = /^(t|tx|say)$/;
/** What counts things, with the words for one and for several after the number. */
const COUNTING = /^(counted|nounOf|countSaid)$/;

/** A text in the code, and where it is. */
export interface TextAt {
  readonly text: string;
  readonly file: string;
  readonly line: number;
}

function* pathsIn(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (entry.name !== 'testing') yield* pathsIn(path);
    } else if (/\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name)) yield path;
  }
}

/** @param name with its ending, which says whether elements may stand in it */
export const parsed = (name: string, code: string): ts.SourceFile =>
  ts.createSourceFile(name, code, ts.ScriptTarget.Latest, true);

/** The files of folders, without those of tests. @param folders from the root of the project */
export const filesIn = (folders: readonly string[]): ts.SourceFile[] =>
  folders.flatMap((folder) =>
    [...pathsIn(join(root, folder))].map((path) =>
      parsed(relative(root, path), readFileSync(path, 'utf8')),
    ),
  );

/** Where a node stands, with a text of it. */
export function at(node: ts.Node, text: string): TextAt {
  const source = node.getSourceFile();
  const { line } = source.getLineAndCharacterOfPosition(node.getStart());
  return { text, file: source.fileName, line: line + 1 };
}

/** Whether a template is marked as a text of the catalogue. */
export const isMarked = (node: ts.Node): node is ts.TaggedTemplateExpression =>
  ts.isTaggedTemplateExpression(node) && MARKS.test(node.tag.getText());

/** Every node of a file or of what stands in it, from the outside in. */
export function* nodesOf(node: ts.Node): Generator<ts.Node> {
  yield node;
  const inner: ts.Node[] = [];
  ts.forEachChild(node, (child) => {
    inner.push(child);
  });
  for (const child of inner) yield* nodesOf(child);
}

/** The keys of the catalogue that a file has. */
export const keysIn = (source: ts.SourceFile): TextAt[] =>
  [...nodesOf(source)].filter(isMarked).map((node) => at(node, keyIn(node.template)));

function keyIn(template: ts.TemplateLiteral): string {
  if (ts.isNoSubstitutionTemplateLiteral(template)) return template.text;
  return template.templateSpans.reduce(
    (sum, { literal }, place) => `${sum}{${place}}${literal.text}`,
    template.head.text,
  );
}

/** What a file counts: the words for one and for several. */
export function countedIn(
  source: ts.SourceFile,
): { readonly one: string; readonly other: string }[] {
  return [...nodesOf(source)].flatMap((node) => {
    if (!ts.isCallExpression(node) || !COUNTING.test(node.expression.getText())) return [];
    const [, one, other] = node.arguments;
    return one && other && ts.isStringLiteral(one) && ts.isStringLiteral(other)
      ? [{ one: one.text, other: other.text }]
      : [];
  });
}
