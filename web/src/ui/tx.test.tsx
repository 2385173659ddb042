import { render, screen } from '@testing-library/react';
import { t } from '@zubrell/core/words/t';
import { expect, it, vi } from 'vitest';
import { tx } from './tx.tsx';

vi.mock('@zubrell/core/words/catalogue', () => ({
  catalogue: {
    language: 'de',
    texts: { 'Asked by {0}, {1}.': '{1} von {0} gefragt.' },
    counted: {},
  },
}));

it('puts elements where a language has them', () => {
  const { container } = render(<p>{tx`Asked by ${<b>Ida</b>}, ${'12 Mar'}.`}</p>);
  expect(screen.getByText('Ida').tagName).toBe('B');
  expect(container.textContent).toBe('12 Mar von Ida gefragt.');
});

it('shows nothing for what is not there', () => {
  const { container } = render(<p>{tx`${t`Total`}${false}${null}, ${3}`}</p>);
  expect(container.textContent).toBe('Total, 3');
});
