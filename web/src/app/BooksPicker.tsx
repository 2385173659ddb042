import { LateMenu } from '../ui/LateMenu.tsx';

const load = async () => (await import('./BooksPickerMenu.tsx')).BooksPickerMenu;

/** Goes from one set of books to another. */
export function BooksPicker({ name }: { readonly name: string }) {
  const button = { className: 'picker btn btn-plain', content: <span>{name}</span> };
  return <LateMenu button={button} load={load} props={{ name }} />;
}
