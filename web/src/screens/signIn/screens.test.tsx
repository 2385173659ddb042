import { screen, waitFor } from '@testing-library/react';
import type { Session } from '@zubrell/contract/session';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { JoinScreen } from './JoinScreen.tsx';
import { SignInScreen } from './SignInScreen.tsx';

const mo = { id: 'mo', name: 'Mo Oakes', email: 'mo@larkmoor.example', locale: 'en-GB' } as const;

const nobody: Session = {
  user: null,
  isDemo: false,
  needsFirstUser: false,
  today: '2026-03-31',
};

const sessionOf = (more: Partial<Session> = {}): Answers => ({
  'GET /api/session': { ...nobody, ...more },
});

const posts = (sent: ReturnType<typeof renderInBooks>['sent']) =>
  sent.filter(({ method }) => method === 'POST');

describe('signing in', () => {
  it('asks for address and password, and offers no demo where there is none', async () => {
    renderInBooks(<SignInScreen />, { answers: sessionOf() });
    expect(await screen.findByLabelText('E-mail address')).toBeDefined();
    expect(screen.queryByRole('button', { name: /Mo Oakes/ })).toBeNull();
    expect(screen.queryByLabelText('Set-up code')).toBeNull();
  });

  it('is one press in the demo', async () => {
    const { user, sent } = renderInBooks(<SignInScreen />, {
      answers: sessionOf({ isDemo: true }),
    });
    await user.click(await screen.findByRole('button', { name: 'Sign in as Mo Oakes' }));
    await waitFor(() => expect(posts(sent)).toMatchObject([{ path: '/api/session/demo' }]));
  });

  it('makes the first user with the code that was printed, and not without it', async () => {
    const { user, sent } = renderInBooks(<SignInScreen />, {
      answers: {
        ...sessionOf({ needsFirstUser: true }),
        'POST /api/session/first-user': () => problem('SET_UP_CODE_WRONG'),
      },
    });
    const begin = await screen.findByRole('button', { name: 'Begin' });
    expect(begin).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText(/^Set-up code/), 'KILN-4471');
    await user.type(screen.getByLabelText('Your name'), 'Mo Oakes');
    await user.type(screen.getByLabelText('E-mail address'), 'mo@larkmoor');
    await user.type(screen.getByLabelText('Password'), 'clay and fire');
    await user.click(begin);
    // What is no address is said at its field, and nothing is sent.
    await waitFor(() =>
      expect(screen.getByLabelText('E-mail address').getAttribute('class')).toContain('is-invalid'),
    );
    expect(posts(sent)).toEqual([]);
    await user.type(screen.getByLabelText('E-mail address'), '.example');
    await user.click(begin);
    await waitFor(() =>
      expect(posts(sent)).toMatchObject([
        {
          path: '/api/session/first-user',
          body: { name: 'Mo Oakes', email: mo.email, password: 'clay and fire', code: 'KILN-4471' },
        },
      ]),
    );
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
  });

  it('leads whoever is signed in to where they wanted, or to the books', async () => {
    const { router } = renderInBooks(<SignInScreen />, { answers: sessionOf({ user: mo }) });
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });

  it('says so where the server doesn’t answer', async () => {
    renderInBooks(<SignInScreen />, { answers: { 'GET /api/session': () => problem('INTERNAL') } });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.queryByLabelText('Password')).toBeNull();
  });
});

describe('an invitation', () => {
  const invitation = {
    name: 'Ina Soltveit',
    role: 'bookkeeper',
    invitedBy: 'Mo Oakes',
    booksId: 'larkmoor',
    booksName: 'Larkmoor Kiln Works',
  };
  const open = (answers: Answers) =>
    renderInBooks(<JoinScreen />, {
      place: { path: 'join/:secret', address: 'join/s3cret' },
      answers: {
        ...sessionOf(),
        'GET /api/invitations/s3cret': invitation,
        'POST /api/invitations/s3cret/join': { booksId: 'larkmoor' },
        ...answers,
      },
    });

  it('is taken up by somebody new, who gives a name, an address and a password', async () => {
    const { user, sent, router } = open({});
    expect(await screen.findByText('Larkmoor Kiln Works')).toBeDefined();
    // The name is the one that was invited.
    expect(screen.getByLabelText('Your name')).toHaveProperty('value', 'Ina Soltveit');
    await user.type(screen.getByLabelText('E-mail address'), 'ina@larkmoor.example');
    await user.type(screen.getByLabelText('Password'), 'glaze and fire');
    await user.click(screen.getByRole('button', { name: 'Join' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/larkmoor/board'));
    expect(posts(sent)).toMatchObject([
      {
        body: {
          newUser: {
            name: 'Ina Soltveit',
            email: 'ina@larkmoor.example',
            password: 'glaze and fire',
          },
        },
      },
    ]);
  });

  it('is taken up with one press by who is signed in, and leads a client to the questions', async () => {
    const { user, sent, router } = open({
      ...sessionOf({ user: mo }),
      'GET /api/invitations/s3cret': { ...invitation, role: 'client' },
    });
    expect(await screen.findByText(/to answer questions about the books of/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Join as Mo Oakes' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/larkmoor/questions'));
    expect(posts(sent)).toMatchObject([{ body: { newUser: null } }]);
  });

  it('can be taken up with an account from elsewhere on the server: signing in leads back', async () => {
    const { user, router } = open({});
    await user.click(await screen.findByRole('link', { name: 'Sign in' }));
    expect(router.state.location).toMatchObject({
      pathname: '/sign-in',
      state: { from: '/join/s3cret' },
    });
  });

  it('that is used up says so, and leads to one’s books', async () => {
    const { user, router } = open({
      'GET /api/invitations/s3cret': () => problem('INVITATION_UNKNOWN'),
    });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.queryByLabelText('Your name')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Go to your books' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });
});
