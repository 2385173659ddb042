import { fail } from '../errors.ts';
import type { Problem } from '../formats/bankFile.ts';
import { createXmlReader } from '../formats/xml/readXml.ts';

/** An element with its children; names are without prefix. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: XmlElement[];
  text: string;
}

/** Reads a small XML document whole. @throws {ZubrellError} INVOICE_UNREADABLE */
export function readXmlTree(text: string): XmlElement {
  const top: XmlElement = { name: '', attributes: {}, children: [], text: '' };
  const open = [top];
  const problems: Problem[] = [];
  const reader = createXmlReader(
    {
      open: (name, attributes) => {
        const element: XmlElement = { name, attributes, children: [], text: '' };
        open.at(-1)?.children.push(element);
        open.push(element);
      },
      value: (_name, value) => {
        const element = open.at(-1);
        if (element) element.text = value;
      },
      close: () => {
        open.pop();
      },
    },
    problems,
  );
  reader.write(text);
  const { isRefused, line } = reader.end();
  const [root] = top.children;
  if (isRefused || !root || open.length > 1) {
    fail('INVOICE_UNREADABLE', { detail: `the XML breaks off or is wrong on line ${line}` });
  }
  return root;
}

/** All elements at a path below one. @example all(root, 'InvoiceLine', 'Item') */
export function all(element: XmlElement, ...path: readonly string[]): readonly XmlElement[] {
  return path.reduce<readonly XmlElement[]>(
    (found, name) => found.flatMap(({ children }) => children.filter((each) => each.name === name)),
    [element],
  );
}

/** The first text at a path below an element; null where there is none. */
export function textAt(element: XmlElement, ...path: readonly string[]): string | null {
  return all(element, ...path).find(({ text }) => text !== '')?.text ?? null;
}
