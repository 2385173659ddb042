import { shownProblem } from '../app/problem.ts';

/** Says what went wrong, in the words of the error table. */
export function ErrorNote({ error }: { readonly error: unknown }) {
  return (
    <div className="error-note" role="alert">
      {shownProblem(error).message}
    </div>
  );
}
