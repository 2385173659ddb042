import { plainWording } from '@zubrell/core/text/plainWording';
import { t } from '@zubrell/core/words/t';
import { useCombobox } from 'downshift';
import { useMemo, useRef, useState } from 'react';
import { late } from './late.tsx';
import { type Choice, matchingChoices } from './matchingChoices.ts';

const ChoiceList = late(async () => (await import('./ChoiceList.tsx')).ChoiceList);

/** The id that stands for making what was typed. */
const CREATE = 'create';
interface ComboboxProps {
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly value: string | null;
  readonly onChange: (id: string | null) => void;
  /**
   * Makes what was typed; without it only what is there can be chosen. With `stay`, more is asked first,
   * and the focus does not go on.
   */
  readonly onCreate?: (typed: string) => 'stay' | undefined;
  /** A name to make a new one by, offered first while nothing is typed. */
  readonly newName?: string;
  /** Enter was pressed and the value taken. */
  readonly onNext?: () => void;
  /** Tab was pressed and the value taken; without it the focus goes where Tab leads. */
  readonly onTab?: (isBack: boolean) => void;
  /** Escape was pressed; the old value stays. */
  readonly onCancel?: () => void;
  readonly onBlur?: () => void;
  readonly autoFocus?: boolean;
  readonly placeholder?: string;
  readonly className?: string;
}

/** A field in which one types to find one of many, by any words of it, and can make a new one. */
export function Combobox(props: ComboboxProps) {
  const { choices, value, onChange, onCreate, onNext, onTab, onCancel } = props;
  const field = useRef<HTMLInputElement>(null);
  /** Whether an arrow key chose among the items: without that, Enter leaves the value as it is. */
  const wasMoved = useRef(false);
  const current = choices.find((choice) => choice.id === value) ?? null;
  const [typed, setTyped] = useState<string | null>(null);
  const found = useMemo(() => matchingChoices(choices, typed ?? ''), [choices, typed]);
  const isNew =
    onCreate !== undefined &&
    typed !== null &&
    typed.trim() !== '' &&
    !choices.some((choice) => plainWording(choice.label) === plainWording(typed));
  const toMake = isNew ? typed.trim() : typed === null ? (props.newName ?? null) : null;
  const made: readonly Choice[] = toMake === null ? [] : [{ id: CREATE, label: t`New: ${toMake}` }];
  const items = isNew ? [...found, ...made] : [...made, ...found];

  /** @returns whether the focus is to stay */
  function take(choice: Choice | null | undefined): boolean {
    setTyped(null);
    if (choice?.id === CREATE) return onCreate?.(toMake ?? '') === 'stay';
    if (choice) onChange(choice.id);
    return false;
  }

  const combobox = useCombobox<Choice>({
    items,
    selectedItem: current,
    inputValue: typed ?? current?.label ?? '',
    itemToString: (choice) => choice?.label ?? '',
    defaultHighlightedIndex: 0,
    // Leaving the field takes nothing: only Enter, Tab or a click on an item does.
    stateReducer: (state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputBlur
        ? { ...changes, selectedItem: state.selectedItem }
        : changes,
    onSelectedItemChange: ({ selectedItem }) => void take(selectedItem),
  });

  /**
   * Takes what is highlighted, if something was typed or chosen; an emptied field means none.
   *
   * @returns whether the focus is to stay
   */
  function takeTyped(): boolean {
    const highlighted = items[combobox.highlightedIndex];
    const isMoved = wasMoved.current;
    wasMoved.current = false;
    if (typed === '') onChange(null);
    else if (typed !== null) return take(highlighted ?? items[0]);
    else if (highlighted && highlighted.id !== value && isMoved) return take(highlighted);
    return false;
  }

  const isShown = combobox.isOpen && items.length > 0;
  return (
    <>
      <input
        {...combobox.getInputProps({
          ref: field,
          'aria-label': props.label,
          placeholder: props.placeholder,
          autoFocus: props.autoFocus,
          // Taken here, not from downshift's state, which comes too late for quick typists.
          onChange: (event) => setTyped(event.currentTarget.value),
          onFocus: (event) => {
            void ChoiceList.fetch();
            event.currentTarget.select();
          },
          onBlur: () => {
            if (typed === '') onChange(null);
            setTyped(null);
            props.onBlur?.();
          },
          onKeyDown: (event) => {
            if (event.key === 'ArrowDown' || event.key === 'ArrowUp') wasMoved.current = true;
            if (event.key === 'Escape') {
              // With nothing to take back here, it is for the dialog that the field stands in.
              if (!combobox.isOpen && typed === null) {
                Object.assign(event.nativeEvent, { preventDownshiftDefault: true });
              }
              setTyped(null);
              onCancel?.();
            } else if (event.key === 'Enter' || event.key === 'Tab') {
              const isStaying = takeTyped();
              Object.assign(event.nativeEvent, { preventDownshiftDefault: true });
              if (event.key === 'Tab' && !onTab && !isStaying) return;
              event.preventDefault();
              event.stopPropagation();
              if (isStaying) return;
              if (event.key === 'Tab') onTab?.(event.shiftKey);
              else onNext?.();
            }
          },
        })}
        className={`form-control form-control-sm ${props.className ?? ''}`}
      />
      {isShown ? (
        <ChoiceList
          field={field}
          items={items}
          menuProps={(placed) => combobox.getMenuProps({ ...placed, className: 'choices' })}
          itemProps={(item, index) => combobox.getItemProps({ item, index })}
        />
      ) : (
        // Downshift wants its menu in the page at all times.
        <ul {...combobox.getMenuProps()} hidden />
      )}
    </>
  );
}
