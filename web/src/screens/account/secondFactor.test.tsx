import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { ErasePanel } from './ErasePanel.tsx';
import { SecondFactorPanel } from './SecondFactorPanel.tsx';

const CODES = ['aaaa-bbbb-cccc', 'dddd-eeee-ffff'];
const open = (isOn: boolean, codesLeft: number, answers: Answers = {}) =>
  renderInBooks(<SecondFactorPanel />, {
    answers: { 'GET /api/session/second-factor': { isOn, codesLeft }, ...answers },
  });

describe('a second factor', () => {
  it('is set up with a device, and gives recovery codes once', async () => {
    const { user, sent } = open(false, 0, {
      'POST /api/session/second-factor': { secret: 'JBSWY3DP', uri: 'otpauth://totp/Zubrell:mo' },
      'POST /api/session/second-factor/confirm': { codes: CODES },
    });
    await user.click(await screen.findByRole('button', { name: 'Set up a second factor' }));
    expect((await screen.findByText('JBSWY3DP')).tagName).toBe('SPAN');
    const turnOn = screen.getByRole('button', { name: 'Turn on second factor' });
    expect(turnOn).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Code from the app'), ' 123456 ');
    await user.click(turnOn);
    await screen.findByText('aaaa-bbbb-cccc');
    expect(sent.find(({ path }) => path.endsWith('/confirm'))?.body).toEqual({ code: '123456' });
    await user.click(screen.getByRole('button', { name: 'I have saved the codes' }));
    expect(screen.queryByText('aaaa-bbbb-cccc')).toBeNull();
  });

  it('says how many recovery codes are left, and that a wrong code is none', async () => {
    const { user } = open(true, 1, {
      'POST /api/session/second-factor/end': () => problem('SECOND_FACTOR_WRONG'),
    });
    await screen.findByText(
      'The second factor is on. 1 recovery code is left: create new ones soon.',
    );
    await user.click(screen.getByRole('button', { name: 'Turn off second factor' }));
    await user.type(screen.getByLabelText(/Code from your device/), '000000');
    await user.click(screen.getByRole('button', { name: 'Turn off second factor' }));
    await screen.findByText(/The code is wrong/);
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    await screen.findByRole('button', { name: 'Create new recovery codes' });
  });

  it('makes new recovery codes for whoever has a code', async () => {
    const { user } = open(true, 9, { 'POST /api/session/second-factor/codes': { codes: CODES } });
    await user.click(await screen.findByRole('button', { name: 'Create new recovery codes' }));
    await user.type(screen.getByLabelText(/Code from your device/), '123456');
    await user.click(screen.getByRole('button', { name: 'Create new recovery codes' }));
    await screen.findByText('dddd-eeee-ffff');
  });
});

describe('erasing one’s account', () => {
  it('asks for the password first', async () => {
    const { user, sent } = renderInBooks(<ErasePanel />, {
      answers: { 'POST /api/session/erase': () => problem('OWNER_NEEDED') },
    });
    await user.click(screen.getByRole('button', { name: 'Erase my account…' }));
    await user.click(screen.getByRole('button', { name: 'Erase my account' }));
    await screen.findByText('The password is needed.');
    expect(sent).toEqual([]);
    await user.type(screen.getByLabelText('Your password'), 'clay and fire');
    await user.click(screen.getByRole('button', { name: 'Erase my account' }));
    await screen.findByText(/Books need an owner/);
    await waitFor(() => expect(sent).toHaveLength(1));
  });
});
