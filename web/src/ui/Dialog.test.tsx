import { fireEvent, screen } from '@testing-library/react';
import { Modal } from 'react-bootstrap';
import { describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../testing/renderInBooks.tsx';
import { Dialog } from './Dialog.tsx';

function open() {
  const onClose = vi.fn();
  const shown = renderInBooks(
    <Dialog title="Ask about the line" onClose={onClose}>
      <Modal.Body>
        <input aria-label="Who" />
        <input type="checkbox" aria-label="Once" />
      </Modal.Body>
    </Dialog>,
  );
  return { onClose, ...shown };
}

describe('a dialog', () => {
  it('closes at the first Esc while nothing is typed in it, whatever was ticked', async () => {
    const { user, onClose } = open();
    await user.click(screen.getByLabelText('Once'));
    await user.keyboard('{Escape}');
    expect(onClose).toHaveBeenCalledOnce();
  });

  it('asks for another Esc where something was typed, and again after more is typed', async () => {
    const { user, onClose } = open();
    await user.type(screen.getByLabelText('Who'), 'Ines');
    await user.keyboard('{Escape}');
    expect(onClose).not.toHaveBeenCalled();
    expect(screen.getByRole('status').textContent).toContain('Press Esc again');
    await user.type(screen.getByLabelText('Who'), ' V');
    await user.keyboard('{Escape}');
    expect(onClose).not.toHaveBeenCalled();
    await user.keyboard('{Escape}');
    expect(onClose).toHaveBeenCalledOnce();
  });

  it('closes by its button whatever was typed', async () => {
    const { user, onClose } = open();
    fireEvent.input(screen.getByLabelText('Who'), { target: { value: 'Ines' } });
    await user.click(screen.getByRole('button', { name: 'Close' }));
    expect(onClose).toHaveBeenCalledOnce();
  });
});
