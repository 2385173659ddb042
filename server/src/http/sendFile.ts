import type { FastifyReply } from 'fastify';

/** Answers with a PDF file that the browser shows under a name. */
export function sendPdf(reply: FastifyReply, name: string, file: Buffer) {
  return reply
    .type('application/pdf')
    .header('content-disposition', `inline; ${fileName(`${name}.pdf`)}`)
    .send(file);
}

/** Answers with a CSV file that the browser saves under a name. */
export function sendCsv(reply: FastifyReply, name: string, file: string) {
  return reply
    .type('text/csv; charset=utf-8')
    .header('content-disposition', `attachment; ${fileName(`${name}.csv`)}`)
    .send(file);
}

function fileName(name: string): string {
  return `filename*=UTF-8''${encodeURIComponent(name)}`;
}
