import { type ComponentType, Suspense } from 'react';
import {
  matchRoutes,
  Navigate,
  type NonIndexRouteObject,
  type RouteObject,
  useRoutes,
} from 'react-router';
import { lateScreen } from '../ui/late.tsx';
import { CrashNote } from './CrashNote.tsx';
import { SignedIn } from './SignedIn.tsx';

/** A screen that is fetched when it is first gone to; one that can't be drawn leaves what stands around it. */
function screen<Name extends string>(
  path: string,
  load: () => Promise<Readonly<Record<Name, ComponentType>>>,
  name: Name,
): NonIndexRouteObject {
  const Screen = lateScreen<object>(async () => (await load())[name]);
  const element = (
    <CrashNote>
      <Screen />
    </CrashNote>
  );
  return { path, element, handle: Screen.fetch };
}

/**
 * Fetches all that an address shows, at once rather than one after what stands around it. What can't be fetched says so
 * when it is shown.
 */
export async function fetchScreens(pathname: string): Promise<void> {
  const matches = matchRoutes(routes, pathname) ?? [];
  await Promise.allSettled(matches.map(({ route }) => route.handle?.()));
}

/** What stands at the address. While another screen is fetched, the one before stays. */
export function Routes() {
  const shown = useRoutes(routes);
  return (
    <CrashNote>
      <Suspense>{shown}</Suspense>
    </CrashNote>
  );
}

const routes: RouteObject[] = [
  screen('/sign-in', () => import('../screens/signIn/SignInScreen.tsx'), 'SignInScreen'),
  screen('/join/:secret', () => import('../screens/signIn/JoinScreen.tsx'), 'JoinScreen'),
  screen('/reset/:secret', () => import('../screens/signIn/ResetScreen.tsx'), 'ResetScreen'),
  {
    element: <SignedIn />,
    children: [
      screen('/', () => import('../screens/books/BooksScreen.tsx'), 'BooksScreen'),
      screen('/account', () => import('../screens/account/AccountScreen.tsx'), 'AccountScreen'),
      screen(
        '/books/:booksId/questions',
        () => import('../screens/questions/QuestionsScreen.tsx'),
        'QuestionsScreen',
      ),
      {
        ...screen('/books/:booksId', () => import('./BooksShell.tsx'), 'BooksShell'),
        children: [
          { index: true, element: <Navigate to="board" replace /> },
          screen('board', () => import('../screens/board/BoardScreen.tsx'), 'BoardScreen'),
          screen('desk', () => import('../screens/desk/DeskScreen.tsx'), 'DeskScreen'),
          screen('intake', () => import('../screens/intake/IntakeScreen.tsx'), 'IntakeScreen'),
          screen(
            'intake/consent',
            () => import('../screens/intake/feeds/ConsentScreen.tsx'),
            'ConsentScreen',
          ),
          screen(
            'intake/:batchId',
            () => import('../screens/intake/BatchScreen.tsx'),
            'BatchScreen',
          ),
          screen('rules/:ruleId?', () => import('../screens/rules/RulesScreen.tsx'), 'RulesScreen'),
          screen('habits', () => import('../screens/rules/HabitsScreen.tsx'), 'HabitsScreen'),
          {
            ...screen(
              'reports',
              () => import('../screens/reports/ReportsFrame.tsx'),
              'ReportsFrame',
            ),
            children: [
              { index: true, element: <Navigate to="profit" replace /> },
              screen('profit', () => import('../screens/reports/ProfitScreen.tsx'), 'ProfitScreen'),
              screen(
                'balance-sheet',
                () => import('../screens/reports/BalanceSheetScreen.tsx'),
                'BalanceSheetScreen',
              ),
              screen(
                'trial-balance',
                () => import('../screens/reports/TrialBalanceScreen.tsx'),
                'TrialBalanceScreen',
              ),
              screen('cash', () => import('../screens/reports/CashScreen.tsx'), 'CashScreen'),
              screen(
                'receivables',
                () => import('../screens/reports/AgedScreen.tsx'),
                'ReceivablesScreen',
              ),
              screen(
                'payables',
                () => import('../screens/reports/AgedScreen.tsx'),
                'PayablesScreen',
              ),
              screen(
                'payees',
                () => import('../screens/reports/GroupedScreen.tsx'),
                'ByPayeeScreen',
              ),
              screen(
                'cost-centres',
                () => import('../screens/reports/GroupedScreen.tsx'),
                'ByCostCentreScreen',
              ),
              screen('jobs', () => import('../screens/reports/GroupedScreen.tsx'), 'ByJobScreen'),
              screen(
                'general-ledger',
                () => import('../screens/reports/LedgerListScreen.tsx'),
                'GeneralLedgerScreen',
              ),
              screen(
                'journal',
                () => import('../screens/reports/LedgerListScreen.tsx'),
                'JournalScreen',
              ),
              screen(
                'suspense',
                () => import('../screens/reports/ClearingScreen.tsx'),
                'ClearingScreen',
              ),
              screen(
                'statements',
                () => import('../screens/reports/StatementsReportScreen.tsx'),
                'StatementsReportScreen',
              ),
              screen(
                'recharges',
                () => import('../screens/reports/RechargesScreen.tsx'),
                'RechargesScreen',
              ),
              screen(
                'customer',
                () => import('../screens/reports/PayeeAccountScreen.tsx'),
                'PayeeAccountScreen',
              ),
              screen('owners', () => import('../screens/reports/OwnersScreen.tsx'), 'OwnersScreen'),
              screen(
                'client-money',
                () => import('../screens/reports/ClientMoneyScreen.tsx'),
                'ClientMoneyScreen',
              ),
              screen(
                'tax',
                () => import('../screens/reports/TaxReturnScreen.tsx'),
                'TaxReturnScreen',
              ),
              screen(
                'hand-over',
                () => import('../screens/reports/HandOverScreen.tsx'),
                'HandOverScreen',
              ),
              screen(
                'coding',
                () => import('../screens/reports/CodingRecordScreen.tsx'),
                'CodingRecordScreen',
              ),
            ],
          },
          screen(
            'desk/pairing',
            () => import('../screens/pairing/PairingScreen.tsx'),
            'PairingScreen',
          ),
          screen(
            'ledger/entries',
            () => import('../screens/ledger/EntriesPage.tsx'),
            'EntriesPage',
          ),
          screen(
            'ledger/opening-balances',
            () => import('../screens/ledger/OpeningBalancesPage.tsx'),
            'OpeningBalancesPage',
          ),
          screen(
            'ledger/recurring',
            () => import('../screens/ledger/RecurringPage.tsx'),
            'RecurringPage',
          ),
          screen(
            'ledger/tax-codes',
            () => import('../screens/ledger/TaxCodesPage.tsx'),
            'TaxCodesPage',
          ),
          screen(
            'ledger/exchange-rates',
            () => import('../screens/currencies/ExchangeRatesPage.tsx'),
            'ExchangeRatesPage',
          ),
          screen('ledger/bills', () => import('../screens/ledger/DocumentsPage.tsx'), 'BillsPage'),
          screen(
            'ledger/invoices',
            () => import('../screens/ledger/DocumentsPage.tsx'),
            'InvoicesPage',
          ),
          screen('ledger/payees', () => import('../screens/ledger/PayeesPage.tsx'), 'PayeesPage'),
          screen('close/:month', () => import('../screens/closing/CloseScreen.tsx'), 'CloseScreen'),
          screen(
            'statements',
            () => import('../screens/statements/StatementsScreen.tsx'),
            'StatementsScreen',
          ),
          screen(
            'statements/:bankAccountId/:to',
            () => import('../screens/statements/StatementScreen.tsx'),
            'StatementScreen',
          ),
          screen(
            'ledger/:accountId?',
            () => import('../screens/ledger/LedgerScreen.tsx'),
            'LedgerScreen',
          ),
          screen(
            'settings',
            () => import('../screens/settings/SettingsScreen.tsx'),
            'SettingsScreen',
          ),
          screen('record', () => import('../screens/record/RecordScreen.tsx'), 'RecordScreen'),
          screen('history', () => import('../screens/history/HistoryScreen.tsx'), 'HistoryScreen'),
        ],
      },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
];
