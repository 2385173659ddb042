/** How a file from the watched folder stands: its lines are coming in, came in, or it was refused as a whole or in part. */
export const watchedStates = ['reading', 'taken', 'refused'] as const;
