import { type ReactNode, useId } from 'react';
import { Modal } from 'react-bootstrap';

/** A dialog with its title; what stands in it brings its own body and foot. */
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
  return (
    <Modal
      show
      onHide={onClose}
      centered
      aria-labelledby={id}
      {...(isWide ? { size: 'lg' as const, scrollable: true } : {})}
    >
      <Modal.Header closeButton>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
      </Modal.Header>
      {children}
    </Modal>
  );
}
