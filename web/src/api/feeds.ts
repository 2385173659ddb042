import { feedEndpoints } from '@zubrell/contract/endpoints/feeds';
import { inject } from './inject.ts';

export const feedsApi = inject(feedEndpoints);
