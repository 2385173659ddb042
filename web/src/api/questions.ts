import { questionEndpoints } from '@zubrell/contract/endpoints/questions';
import { inject } from './inject.ts';

export const questionsApi = inject(questionEndpoints);
