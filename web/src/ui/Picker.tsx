import { t } from '@zubrell/core/words/t';
import { LateMenu } from './LateMenu.tsx';
import type { PickerMenuProps } from './PickerMenu.tsx';

const load = async () => (await import('./PickerMenu.tsx')).PickerMenu;

/** A labelled button that opens a list to choose one of, or all. */
export function Picker({ label, ...list }: PickerMenuProps & { readonly label: string }) {
  const { value, all, choices } = list;
  const chosen = choices.find(([each]) => each === value)?.[1] ?? all ?? t`Choose …`;
  const content = (
    <>
      <span className="label">{label}</span> {chosen}
    </>
  );
  return (
    <LateMenu button={{ className: 'picker btn btn-plain', content }} load={load} props={list} />
  );
}
