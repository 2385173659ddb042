import { bigint, integer, pgTable } from 'drizzle-orm/pg-core';

/** How often the server ended while it did a job of the queue; gone with the job. */
export const crashedJobs = pgTable('crashed_jobs', {
  jobId: bigint('job_id', { mode: 'number' }).primaryKey(),
  times: integer().notNull().default(1),
});
