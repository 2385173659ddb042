import { createBrowserRouter, Navigate } from 'react-router';
import { BoardScreen } from '../screens/board/BoardScreen.tsx';
import { BooksScreen } from '../screens/books/BooksScreen.tsx';
import { DeskScreen } from '../screens/desk/DeskScreen.tsx';
import { HistoryScreen } from '../screens/history/HistoryScreen.tsx';
import { BatchScreen } from '../screens/intake/BatchScreen.tsx';
import { ConsentScreen } from '../screens/intake/feeds/ConsentScreen.tsx';
import { IntakeScreen } from '../screens/intake/IntakeScreen.tsx';
import { LedgerScreen } from '../screens/ledger/LedgerScreen.tsx';
import { PayeesPage } from '../screens/ledger/PayeesPage.tsx';
import { SignInScreen } from '../screens/signIn/SignInScreen.tsx';
import { BooksShell } from './BooksShell.tsx';
import { SignedIn } from './SignedIn.tsx';

/** Every address and what it shows. */
export const router = createBrowserRouter([
  { path: '/sign-in', element: <SignInScreen /> },
  {
    element: <SignedIn />,
    children: [
      { path: '/', element: <BooksScreen /> },
      {
        path: '/books/:booksId',
        element: <BooksShell />,
        children: [
          { index: true, element: <Navigate to="board" replace /> },
          { path: 'board', element: <BoardScreen /> },
          { path: 'desk', element: <DeskScreen /> },
          { path: 'intake', element: <IntakeScreen /> },
          { path: 'intake/consent', element: <ConsentScreen /> },
          { path: 'intake/:batchId', element: <BatchScreen /> },
          { path: 'ledger/payees', element: <PayeesPage /> },
          { path: 'ledger/:accountId?', element: <LedgerScreen /> },
          { path: 'history', element: <HistoryScreen /> },
        ],
      },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
]);
