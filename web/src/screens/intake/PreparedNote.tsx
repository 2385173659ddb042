import { foldCase } from '@zubrell/core/text/foldCase';
import { t } from '@zubrell/core/words/t';
import { useBooks } from '../../app/useBooks.ts';
import type { PreparedNames } from '../../workers/fileReading.ts';

/** What a prepared file's coding columns become, and the names in them that the books don't know. */
export function PreparedNote({ names }: { readonly names: PreparedNames }) {
  const { setup } = useBooks();
  const { accounts, taxes, payees } = names;
  if (accounts.length === 0 && taxes.length === 0) return null;
  const known = new Set(
    setup.accounts.flatMap(({ code, name }) => [code, name, `${code} ${name}`]).map(foldCase),
  );
  const isIn = (list: readonly { readonly name: string }[]) => {
    const all = new Set(list.map(({ name }) => foldCase(name)));
    return (name: string) => all.has(foldCase(name));
  };
  const unknown = [
    [t`Accounts`, accounts.filter((name) => !known.has(foldCase(name)))],
    [t`Tax codes`, taxes.filter((name) => !isIn(setup.taxCodes)(name))],
    [t`Payees`, payees.filter((name) => !isIn(setup.payees)(name))],
  ] as const;
  const missing = unknown.filter(([, list]) => list.length > 0);
  return (
    <section>
      <h2 className="small-heading">{t`Coding in the file`}</h2>
      <p className="m-0">{t`The file’s coding becomes a proposal; nothing is posted.`}</p>
      {missing.map(([what, list]) => (
        <p key={what} className="doubt m-0 mt-1">
          {t`${what} not in the books: ${list.slice(0, 12).join(', ')}`}
          {list.length > 12 && t` and ${list.length - 12} more`}.
        </p>
      ))}
    </section>
  );
}
