import { booksEndpoints } from '@zubrell/contract/endpoints/books';
import { inject } from './inject.ts';

export const booksApi = inject(booksEndpoints);
