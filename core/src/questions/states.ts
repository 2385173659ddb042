/** How a question to a client stands. */
export const questionStates = ['open', 'answered', 'withdrawn'] as const;

/** How it stands with a line that is asked about. */
export const askedStates = ['open', 'answered'] as const;

/** The attachments that can be attached to a line. */
export const attachmentTypes = [
  'application/pdf',
  'image/png',
  'image/jpeg',
  /** An electronic invoice, kept with its bill. */
  'application/xml',
] as const;
