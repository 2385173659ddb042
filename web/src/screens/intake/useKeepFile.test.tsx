import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { useKeepFile } from './useKeepFile.ts';

const file = new File(['lines'], 'march.ofx');

/** A button that keeps the file, and how that stands. */
function Keep() {
  const { state, keep } = useKeepFile(file);
  const [kept, setKept] = useState<string | null>(null);
  const wanted = { statementIndex: 0, bankAccountId: 'everyday' } as Parameters<typeof keep>[0];
  return (
    <>
      <button
        type="button"
        onClick={() => void keep(wanted).then((batch) => setKept(batch?.id ?? 'none'))}
      >
        keep
      </button>
      <output>
        {state.kind === 'busy' ? state.words : state.kind === 'failed' ? state.message : ''}
      </output>
      <p>{kept}</p>
    </>
  );
}

async function press(answers: Answers) {
  const view = renderInBooks(<Keep />, {
    answers: {
      'POST /uploads': { uploadId: 'sent' },
      'POST /batches': { batchId: 'here' },
      'GET /batches/here': { id: 'here', status: 'kept' },
      ...answers,
    },
  });
  await view.user.click(await screen.findByRole('button', { name: 'keep' }));
  return view;
}
const said = () => screen.getByRole('status').textContent;

it('a file is sent, then read by the server, and looked after until it is kept', async () => {
  const states = ['reading', 'reading', 'kept'];
  const { sent } = await press({
    'GET /batches/here': () => ({ id: 'here', status: states.shift() ?? 'kept' }),
  });
  await waitFor(() => expect(said()).toBe('Importing the lines …'));
  expect(await screen.findByText('here')).toBeDefined();
  expect(sent.filter(({ path }) => path === '/batches/here')).toHaveLength(3);
  expect(sent.find(({ path }) => path === '/batches')?.body).toEqual({
    uploadId: 'sent',
    statementIndex: 0,
    bankAccountId: 'everyday',
  });
});

it.each([
  ['POST /uploads', () => problem('BANK_ACCOUNT_UNKNOWN')],
  ['POST /batches', () => problem('BANK_ACCOUNT_UNKNOWN')],
  ['GET /batches/here', () => problem('BANK_ACCOUNT_UNKNOWN')],
  [
    'GET /batches/here',
    () => ({ status: 'refused', refusal: { message: 'That bank account is not in these books.' } }),
  ],
])('a file that is not kept says why, wherever that is (%s)', async (where, answer) => {
  await press({ [where]: answer });
  expect(await screen.findByText('none')).toBeDefined();
  expect(said()).toBe('That bank account is not in these books.');
});
