import { type InputHTMLAttributes, type Ref, useId } from 'react';

interface TextFieldProps extends InputHTMLAttributes<HTMLInputElement> {
  readonly label: string;
  readonly error?: string | undefined;
  readonly hint?: string | undefined;
  readonly ref?: Ref<HTMLInputElement>;
}

/** A labelled field that says what is wrong with what is in it. */
export function TextField({ label, error, hint, ...input }: TextFieldProps) {
  const id = useId();
  const said = error ?? hint;
  return (
    <div>
      <label htmlFor={id} className="small-heading">
        {label}
      </label>
      <input
        {...input}
        id={id}
        className={`form-control ${error ? 'is-invalid' : ''}`}
        aria-invalid={error !== undefined}
        aria-describedby={said ? `${id}-said` : undefined}
      />
      {said && (
        <div id={`${id}-said`} className={error ? 'trouble' : 'quiet'}>
          {sentence(said)}
        </div>
      )}
    </div>
  );
}

/** Messages of a schema begin small, as they also stand inside sentences. */
function sentence(words: string): string {
  const text = words.charAt(0).toUpperCase() + words.slice(1);
  return /[.!?]$/.test(text) ? text : `${text}.`;
}
