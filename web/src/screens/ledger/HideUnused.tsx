import { t } from '@zubrell/core/words/t';
/** Whether what nothing was posted to is left out of a list. */
export function HideUnused({
  isHiding,
  onChange,
}: {
  readonly isHiding: boolean;
  readonly onChange: (isHiding: boolean) => void;
}) {
  return (
    <label className="hide-unused">
      <input
        type="checkbox"
        className="form-check-input"
        checked={isHiding}
        onChange={({ target }) => onChange(target.checked)}
      />
      {t`Hide unused`}
    </label>
  );
}
