import { type Ref, type SelectHTMLAttributes, useId } from 'react';

interface SelectFieldProps extends SelectHTMLAttributes<HTMLSelectElement> {
  readonly label: string;
  readonly ref?: Ref<HTMLSelectElement>;
}

/** A labelled choice of one among a few. */
export function SelectField({ label, ...select }: SelectFieldProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="small-heading">
        {label}
      </label>
      <select {...select} id={id} className="form-select" />
    </div>
  );
}
