import { t } from '@zubrell/core/words/t';
import { Component, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { EmptyState } from '../ui/EmptyState.tsx';

/** What it holds, or, where that can't be drawn, what was kept and how to go on. Another address is tried anew. */
export function CrashNote({ children }: { readonly children: ReactNode }) {
  const { key } = useLocation();
  return <Boundary visit={key}>{children}</Boundary>;
}

interface BoundaryProps {
  /** The visit of an address, which an error is forgotten with. */
  readonly visit: string;
  readonly children: ReactNode;
}

/** React tells of errors in drawing to classes only. */
class Boundary extends Component<
  BoundaryProps,
  { readonly error: unknown; readonly visit: string }
> {
  override state = { error: null as unknown, visit: this.props.visit };

  static getDerivedStateFromError(error: unknown) {
    return { error };
  }

  static getDerivedStateFromProps({ visit }: BoundaryProps, state: { readonly visit: string }) {
    return visit === state.visit ? null : { error: null, visit };
  }

  override render() {
    const { error } = this.state;
    if (error === null) return this.props.children;
    return (
      <div className="page" role="alert">
        <EmptyState title={t`This screen couldn’t be shown`}>
          <p>{t`Your work is saved and nothing was changed. Reload the page.`}</p>
          <button type="button" className="btn btn-main" onClick={() => window.location.reload()}>
            {t`Reload page`}
          </button>
          <p className="quiet mt-3">{error instanceof Error ? error.message : ''}</p>
        </EmptyState>
      </div>
    );
  }
}
