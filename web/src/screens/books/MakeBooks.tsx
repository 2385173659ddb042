import { NewBooksForm } from './NewBooksForm.tsx';
import { ReadArchive } from './ReadArchive.tsx';

/** New books: begun, or read from an archive. */
export function MakeBooks() {
  return (
    <>
      <NewBooksForm />
      <ReadArchive />
    </>
  );
}
