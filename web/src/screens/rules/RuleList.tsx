import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ListedRule } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { type KeyboardEvent, type RefObject, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { tx } from '../../ui/tx.tsx';
import { BulkBar } from './BulkBar.tsx';
import { RuleRow } from './RuleRow.tsx';
import { beforeWhenDropped, beforeWhenMoved, type RuleOrder, shownRules } from './ruleShown.ts';
import { useRuleNames } from './useRuleNames.ts';

const ORDERS: readonly (readonly [RuleOrder, string])[] = [
  ['number', t`order`],
  ['use', t`use`],
  ['lastUse', t`last use`],
  ['payee', t`payee`],
  ['account', t`account`],
];
const ROW_HEIGHT = 52;

/** The rules in their order: searched, sorted, ticked, dragged, and moved by Alt and the arrows. */
export function RuleList({
  rules,
  currentId,
  searchRef,
  onCopyElsewhere,
}: {
  readonly rules: readonly ListedRule[];
  readonly currentId: string | null;
  readonly searchRef: RefObject<HTMLInputElement | null>;
  /** Gets a rule file that is to be imported into other books. */
  readonly onCopyElsewhere: (text: string) => void;
}) {
  const { booksId } = useBooks();
  const names = useRuleNames();
  const navigate = useNavigate();
  const { told } = useUndo();
  const [moveRule] = rulesApi.useMoveRuleMutation();
  const [typed, setTyped] = useState('');
  const [order, setOrder] = useState<RuleOrder>('number');
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const list = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => shownRules(rules, typed, order, names), [rules, typed, order, names]);
  const canMove = order === 'number' && typed.trim() === '';
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const numberOf = (id: string) => rules.find((rule) => rule.id === id)?.number ?? null;

  async function move(ruleId: RuleId, beforeId: string | null | undefined): Promise<void> {
    if (beforeId !== undefined) told(await moveRule({ booksId, ruleId, beforeId }));
  }

  function onDragEnd({ active, over }: DragEndEvent): void {
    if (!over || over.id === active.id) return;
    const [ruleId, overId] = [String(active.id), String(over.id)];
    void move(ruleId, beforeWhenDropped(rules, ruleId, overId));
  }

  function onKeyDown(event: KeyboardEvent): void {
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    const by = event.key === 'ArrowUp' ? -1 : 1;
    event.preventDefault();
    if (event.altKey) {
      if (canMove && currentId) void move(currentId, beforeWhenMoved(rules, currentId, by));
      return;
    }
    const at = shown.findIndex(({ id }) => id === currentId);
    const next = shown[at < 0 ? 0 : at + by];
    if (!next) return;
    navigate(`/books/${booksId}/rules/${next.id}`);
    virtual.scrollToIndex(shown.indexOf(next));
  }

  if (rules.length === 0) {
    return (
      <EmptyState title={t`No rule yet`}>
        <p>
          {tx`Habits learn on their own. A rule is for what you know better: write one here, or make one from a line in the Desk with ${<kbd>R</kbd>}.`}
        </p>
      </EmptyState>
    );
  }
  return (
    <>
      <div className="rule-filter">
        <input
          type="checkbox"
          className="form-check-input tick-all"
          aria-label={t`Tick all that are shown`}
          title={t`Tick all that are shown`}
          checked={shown.length > 0 && shown.every(({ id }) => ticked.includes(id))}
          onChange={({ target }) => setTicked(target.checked ? shown.map(({ id }) => id) : [])}
        />
        <input
          ref={searchRef}
          type="search"
          className="form-control form-control-sm"
          aria-label={t`Search rules`}
          placeholder={t`Name, word, payee or account`}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        <Picker
          label={t`by`}
          all={null}
          value={order}
          choices={ORDERS}
          onChange={(value) => setOrder((value ?? 'number') as RuleOrder)}
        />
      </div>
      {ticked.length > 0 && (
        <BulkBar ruleIds={ticked} onDone={() => setTicked([])} onCopyElsewhere={onCopyElsewhere} />
      )}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the rows are links; the arrows go from one to the next */}
      <div className="rule-rows" ref={list} onKeyDown={onKeyDown}>
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext
            items={shown.map(({ id }) => id)}
            strategy={verticalListSortingStrategy}
            disabled={!canMove}
          >
            <ol style={{ height: virtual.getTotalSize() }}>
              {virtual.getVirtualItems().map(({ index, start }) => {
                const rule = shown[index];
                return (
                  rule && (
                    <RuleRow
                      key={rule.id}
                      rule={rule}
                      top={start}
                      isCurrent={rule.id === currentId}
                      canMove={canMove}
                      isTicked={ticked.includes(rule.id)}
                      numberOf={numberOf}
                      onTick={(isOn) =>
                        setTicked(
                          isOn ? [...ticked, rule.id] : ticked.filter((id) => id !== rule.id),
                        )
                      }
                    />
                  )
                );
              })}
            </ol>
          </SortableContext>
        </DndContext>
        {shown.length === 0 && <p className="quiet p-3">{t`No rules match.`}</p>}
      </div>
      <p className="rule-foot quiet">
        {tx`The first rule that matches a line applies. ${<kbd>{t`Alt ↑`}</kbd>} ${<kbd>{t`Alt ↓`}</kbd>} move the one you are on, or drag its number.`}
      </p>
    </>
  );
}
