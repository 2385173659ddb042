import { errorCodes, messageOf } from '@zubrell/core/errors';
import { z } from 'zod';

/** Why something was refused, as columns keep it: an error's code and parameters. */
export const Refusal = z.object({
  code: z.enum(errorCodes),
  params: z.record(z.string(), z.union([z.string(), z.number()])),
});
export type Refusal = z.infer<typeof Refusal>;

/** It in words. */
export const refusalWords = ({ code, params }: Refusal): string => messageOf(code, params);
