import { t } from '@zubrell/core/words/t';
import { type FormEvent, type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { CloseButton, Modal } from 'react-bootstrap';

/**
 * A dialog with its title; what stands in it brings its own body and foot. Esc closes it at the first press, unless
 * something was typed in it: then it asks for another one.
 */
export function Dialog({
  title,
  isWide = false,
  onClose,
  children,
}: {
  readonly title: ReactNode;
  readonly isWide?: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  const id = useId();
  const isTyped = useRef(false);
  const [isAsking, setIsAsking] = useState(false);

  useEffect(() => keepFocus, []);

  function leave(): void {
    if (isTyped.current && !isAsking) setIsAsking(true);
    else onClose();
  }

  return (
    <Modal
      show
      onHide={leave}
      onInput={({ target }: FormEvent) => {
        isTyped.current ||= isTextField(target);
        setIsAsking(false);
      }}
      centered
      aria-labelledby={id}
      {...(isWide ? { size: 'lg' as const, scrollable: true } : {})}
    >
      <Modal.Header>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
        <CloseButton aria-label={t`Close`} onClick={onClose} />
      </Modal.Header>
      {children}
      <p className={isAsking ? 'discard-typed' : 'visually-hidden'} role="status">
        {isAsking && t`What you typed here isn’t saved. Press Esc again to discard it.`}
      </p>
    </Modal>
  );
}

/** Where the focus has nothing to go back to, it goes to the page, so that keys go on from there. */
function keepFocus(): void {
  setTimeout(() => {
    const main = document.querySelector('main');
    if (main === null || document.activeElement !== document.body) return;
    main.tabIndex = -1;
    main.focus({ preventScroll: true });
  });
}

function isTextField(target: EventTarget): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  return target instanceof HTMLInputElement && !['checkbox', 'radio', 'file'].includes(target.type);
}
