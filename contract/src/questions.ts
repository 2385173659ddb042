import { attachmentTypes, questionStates } from '@zubrell/core/questions/states';
import { z } from 'zod';
import { CalendarDate, Id, Minor, neededText, Seen } from './common.ts';
import { Target } from './desk.ts';

export const AskLines = z.object({
  target: Target,
  /** Who is to answer. */
  askedOf: neededText(100, 'say who is asked'),
  words: neededText(2_000, 'a question is needed'),
  seenStep: Seen,
});
export type AskLines = z.infer<typeof AskLines>;

export const AnswerQuestion = z.object({
  words: neededText(2_000, 'an answer is needed'),
});
export type AnswerQuestion = z.infer<typeof AnswerQuestion>;

export const Question = z.object({
  id: Id,
  askedOf: z.string(),
  words: z.string(),
  askedBy: z.string(),
  askedAt: z.string(),
  state: z.enum(questionStates),
  /** How many lines it is about. */
  lineCount: z.int(),
  answers: z.array(z.object({ id: Id, words: z.string(), who: z.string(), at: z.string() })),
});
export type Question = z.infer<typeof Question>;

/** A question as whoever is asked sees it, with the lines it is about. */
export const QuestionToMe = Question.extend({
  lines: z.array(
    z.object({
      id: Id,
      date: CalendarDate,
      amount: Minor,
      /** In which it is. */
      currency: z.string(),
      description: z.string(),
      reference: z.string().nullable(),
      attachments: z.array(z.object({ id: Id, fileName: z.string() })),
    }),
  ),
});
export type QuestionToMe = z.infer<typeof QuestionToMe>;

/** What a user is asked about books. */
export const QuestionsToMe = z.object({
  booksName: z.string(),
  currency: z.string(),
  questions: z.array(QuestionToMe),
});
export type QuestionsToMe = z.infer<typeof QuestionsToMe>;

/** Lines that a question is out about go to the suspense account until the answer comes. */
export const SuspendLines = z.object({ target: Target, seenStep: Seen });
export type SuspendLines = z.infer<typeof SuspendLines>;

export const Attachment = z.object({
  id: Id,
  fileName: z.string(),
  type: z.enum(attachmentTypes),
  size: z.int(),
  who: z.string(),
  at: z.string(),
});
export type Attachment = z.infer<typeof Attachment>;

/** An attachment as it is named beside what it is kept with. */
export const KeptAttachment = Attachment.pick({ id: true, fileName: true });

/** The attachments and questions of a line. */
export const LineThread = z.object({
  questions: z.array(Question),
  attachments: z.array(Attachment),
});
export type LineThread = z.infer<typeof LineThread>;
