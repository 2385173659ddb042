import { z } from 'zod';

/** The tasks of the queue. */
export const taskNames = [
  'keepBatch',
  'fetchFeed',
  'renewProposals',
  'saveHabits',
  'summariseBooks',
] as const;
export type TaskName = (typeof taskNames)[number];

/** Work on books that is done in the background. */
export const BackgroundJob = z.object({
  id: z.string().regex(/^\d{1,18}$/),
  task: z.enum(taskNames),
  state: z.enum(['waiting', 'running', 'failed']),
  /** The file or feed that it is about, where it is about one. */
  about: z.string().nullable(),
  /** When it was asked for, or began to run. */
  since: z.string(),
  /** When it is tried again, where it was tried in vain. */
  againAt: z.string().nullable(),
  attempts: z.int(),
});
export type BackgroundJob = z.infer<typeof BackgroundJob>;

export const BackgroundJobs = z.object({ jobs: z.array(BackgroundJob) });
