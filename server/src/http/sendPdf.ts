import type { FastifyReply } from 'fastify';

/** Answers with a PDF file that the browser shows under a name. */
export function sendPdf(reply: FastifyReply, name: string, file: Buffer) {
  const fileName = encodeURIComponent(`${name}.pdf`);
  return reply
    .type('application/pdf')
    .header('content-disposition', `inline; filename*=UTF-8''${fileName}`)
    .send(file);
}
