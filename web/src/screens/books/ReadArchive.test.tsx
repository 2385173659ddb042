import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { ReadArchive } from './ReadArchive.tsx';

const file = () => new File(['PK'], 'Larkmoor.zip', { type: 'application/zip' });

describe('reading an archive', () => {
  it('sends the file as it is, and goes to the new books', async () => {
    const { user, sent, router } = renderInBooks(<ReadArchive />, {
      answers: { 'POST /api/archives': { id: 'made' } },
    });
    await user.upload(screen.getByLabelText('Archive'), file());
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/made/board'));
    expect(sent[0]).toMatchObject({ method: 'POST', path: '/api/archives?fileName=Larkmoor.zip' });
  });

  it('says what is wrong with one that can’t be read, and stays', async () => {
    const { user } = renderInBooks(<ReadArchive />, {
      answers: {
        'POST /api/archives': problem('ARCHIVE_FILE', {
          file: 'data/legs.csv',
          what: 'it is missing',
        }),
      },
    });
    await user.upload(screen.getByLabelText('Archive'), file());
    expect(await screen.findByText(/data\/legs.csv in the archive was changed/)).toBeDefined();
    expect(screen.getByRole('button', { name: 'Read an archive' })).toBeDefined();
  });
});
