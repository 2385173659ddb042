import { useBooks } from '../app/useBooks.ts';

/** An amount: a plus and weight for money in, a true minus for money out. */
export function Amount({ minor }: { readonly minor: number }) {
  const { amount } = useBooks();
  return <span className={minor > 0 ? 'money-in' : ''}>{amount(minor, { plus: true })}</span>;
}
