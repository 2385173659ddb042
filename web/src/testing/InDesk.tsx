import type { ReactNode } from 'react';
import { DeskActionsContext, useMakeDeskActions } from '../screens/desk/useDeskActions.ts';

/** Parts of the Desk by themselves, with what can be done with its rows. */
export function InDesk({ children }: { readonly children: ReactNode }) {
  return <DeskActionsContext value={useMakeDeskActions()}>{children}</DeskActionsContext>;
}
