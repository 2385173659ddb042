import { skipToken } from '@reduxjs/toolkit/query';
import type { FoundLine } from '@zubrell/contract/desk';
import { decisionKinds } from '@zubrell/core/ledger/decisions';
import { t } from '@zubrell/core/words/t';
import { Command, useCommandState } from 'cmdk';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { booksApi } from '../api/books.ts';
import { ledgerApi } from '../api/ledger.ts';
import { linesApi } from '../api/lines.ts';
import { rulesApi } from '../api/rules.ts';
import { Amount } from '../ui/Amount.tsx';
import './jump.scss';
import { jumpRank } from './jumpRank.ts';
import { accountLabel, bankAccountLabel, standing, useBooks } from './useBooks.ts';
import { useLater } from './useLater.ts';
import { useShowDate } from './useToday.ts';

const SCREENS = [
  ['board', t`Board`],
  ['desk', t`Desk`],
  ['intake', t`Intake`],
  ['rules', t`Rules`],
  ['habits', t`Habits`],
  ['ledger', t`Ledger`],
  ['ledger/recurring', t`Recurring journals`],
  ['ledger/tax-codes', t`Tax codes`],
  ['statements', t`Statements`],
  ['reports', t`Reports`],
  ['reports/tax', t`Tax return`],
  ['history', t`History`],
  ['settings', t`Settings`],
] as const;

const FOR_OWNERS = [['record', t`Access record`]] as const;

/** Lines are searched from this many letters on. */
const LEAST = 2;

const STATES: Readonly<Record<FoundLine['state'], string>> = {
  ready: t`in Ready`,
  check: t`in Check`,
  blank: t`in Blank`,
  asked: t`in Asked`,
  posted: 'posted',
  paired: 'paired',
  excluded: 'excluded',
  deleted: 'deleted',
};

/** Jumps to any screen, account, bank account, rule, payee or line, and to other books. */
export function JumpDialog({ onClose }: { readonly onClose: () => void }) {
  const { booksId, setup, currencyOf } = useBooks();
  const showDate = useShowDate();
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const searched = useLater(typed.trim());
  const { currentData } = linesApi.useFindLinesQuery(
    searched.length >= LEAST ? { booksId, search: searched } : skipToken,
  );
  const { currentData: found } = ledgerApi.useFindEntriesQuery(
    searched.length >= LEAST ? { booksId, search: searched } : skipToken,
  );
  const { data: rules } = rulesApi.useRulesQuery(typed === '' ? skipToken : booksId);
  const { data: listed } = booksApi.useListBooksQuery(typed === '' ? skipToken : undefined);
  const others = (listed?.books ?? []).filter(
    ({ id, isArchived }) => id !== booksId && !isArchived,
  );
  const lines = searched === typed.trim() ? (currentData?.lines ?? []) : [];

  const entries = searched === typed.trim() ? (found?.entries ?? []) : [];
  const [current, setCurrent] = useState('');
  const [firstEntry] = entries;
  const firstFound = firstEntry ? `entry ${firstEntry.entryId}` : lines[0]?.id;
  // What the server finds comes after the list chose its first.
  useEffect(() => {
    if (current === '' && firstFound !== undefined) setCurrent(firstFound);
  }, [current, firstFound]);

  const screens = setup.books.role === 'owner' ? [...SCREENS, ...FOR_OWNERS] : SCREENS;

  function leave(path: string): void {
    navigate(path);
    onClose();
  }
  const go = (path: string) => leave(`/books/${booksId}/${path}`);
  const search = (text: string) => `q=${encodeURIComponent(text)}`;

  return (
    <Modal show onHide={onClose} aria-label={t`Jump to`} className="jump">
      <Command
        loop
        label={t`Jump to`}
        value={current}
        onValueChange={setCurrent}
        filter={(value, search, keywords) => jumpRank(keywords?.[0] ?? value, search)}
      >
        <Command.Input
          autoFocus
          value={typed}
          onValueChange={setTyped}
          placeholder={t`A screen, account, payee, wording, amount or other books`}
        />
        <Command.List>
          <NothingFound isElsewhere={lines.length + entries.length > 0} />
          <Command.Group heading={t`Screens`}>
            {screens.map(([path, name]) => (
              <Command.Item
                key={path}
                value={`screen ${path}`}
                keywords={[name]}
                onSelect={() => go(path)}
              >
                {name}
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading={t`Bank accounts`}>
            {setup.bankAccounts.map((bank) => (
              <Command.Item
                key={bank.id}
                value={`bank ${bank.id}`}
                keywords={[bankAccountLabel(bank)]}
                onSelect={() => go(`desk?account=${bank.id}`)}
              >
                {bankAccountLabel(bank)}
              </Command.Item>
            ))}
          </Command.Group>
          {typed !== '' && (
            <>
              <Command.Group heading={t`Accounts`}>
                {standing(setup.accounts).map((account) => (
                  <Command.Item
                    key={account.id}
                    value={`account ${account.id}`}
                    keywords={[accountLabel(account)]}
                    onSelect={() => go(`ledger/${account.id}`)}
                  >
                    {accountLabel(account)}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={t`Rules`}>
                {rules?.rules.map(({ id, name }) => (
                  <Command.Item
                    key={id}
                    value={`rule ${id}`}
                    keywords={[name]}
                    onSelect={() => go(`rules/${id}`)}
                  >
                    {name}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={t`Books`}>
                {others.map(({ id, name, role }) => (
                  <Command.Item
                    key={id}
                    value={`books ${id}`}
                    keywords={[name]}
                    onSelect={() =>
                      leave(`/books/${id}/${role === 'client' ? 'questions' : 'board'}`)
                    }
                  >
                    {name}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={t`Payees`}>
                {setup.payees.map(({ id, name }) => (
                  <Command.Item
                    key={id}
                    value={`payee ${id}`}
                    keywords={[name]}
                    onSelect={() => go(`desk?lane=decided&${search(name)}`)}
                  >
                    {name}
                  </Command.Item>
                ))}
              </Command.Group>
              {entries.length > 0 && (
                <Command.Group heading={t`Entries`} forceMount>
                  {entries.map(
                    ({ entryId, accountId, date, number, reference, payee, text, amount }) => (
                      <Command.Item
                        key={entryId}
                        forceMount
                        value={`entry ${entryId}`}
                        onSelect={() => go(`ledger/${accountId}?entry=${entryId}`)}
                      >
                        <span>{showDate(date)}</span>
                        <span className="said">
                          {[number, reference, payee, text].filter(Boolean).join(' · ') || t`Entry`}
                        </span>
                        <Amount minor={amount} />
                      </Command.Item>
                    ),
                  )}
                </Command.Group>
              )}
              {lines.length > 0 && (
                <Command.Group heading={t`Lines`} forceMount>
                  {lines.map((line) => (
                    <Command.Item
                      key={line.id}
                      forceMount
                      value={line.id}
                      onSelect={() =>
                        go(`desk?lane=${laneOf(line.state)}&${search(line.description)}`)
                      }
                    >
                      <span>{showDate(line.date)}</span>
                      <span className="said mono">{line.description}</span>
                      <span className="quiet">{STATES[line.state]}</span>
                      <Amount minor={line.amount} currency={currencyOf(line.bankAccountId)} />
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
            </>
          )}
        </Command.List>
      </Command>
    </Modal>
  );
}

function laneOf(state: FoundLine['state']): string {
  return decisionKinds.some((kind) => kind === state) ? 'decided' : state;
}

/** Says that nothing was found, once nothing was anywhere. */
function NothingFound({ isElsewhere }: { readonly isElsewhere: boolean }) {
  const count = useCommandState((state) => state.filtered.count);
  if (count > 0 || isElsewhere) return null;
  return (
    <p className="quiet m-3">{t`Nothing matches. Try fewer letters, or part of a wording or amount.`}</p>
  );
}
