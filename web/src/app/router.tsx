import { createBrowserRouter, Navigate } from 'react-router';
import { CrashScreen } from './CrashScreen.tsx';
import { SignedIn } from './SignedIn.tsx';

/** Every address and what it shows; each screen is fetched when it is first gone to. */
export const router = createBrowserRouter([
  {
    path: '/sign-in',
    errorElement: <CrashScreen />,
    HydrateFallback: () => null,
    lazy: async () => ({
      Component: (await import('../screens/signIn/SignInScreen.tsx')).SignInScreen,
    }),
  },
  {
    path: '/join/:secret',
    lazy: async () => ({
      Component: (await import('../screens/signIn/JoinScreen.tsx')).JoinScreen,
    }),
  },
  {
    path: '/reset/:secret',
    lazy: async () => ({
      Component: (await import('../screens/signIn/ResetScreen.tsx')).ResetScreen,
    }),
  },
  {
    element: <SignedIn />,
    errorElement: <CrashScreen />,
    HydrateFallback: () => null,
    children: [
      {
        path: '/',
        lazy: async () => ({
          Component: (await import('../screens/books/BooksScreen.tsx')).BooksScreen,
        }),
      },
      {
        path: '/account',
        lazy: async () => ({
          Component: (await import('../screens/account/AccountScreen.tsx')).AccountScreen,
        }),
      },
      {
        path: '/books/:booksId/questions',
        lazy: async () => ({
          Component: (await import('../screens/questions/QuestionsScreen.tsx')).QuestionsScreen,
        }),
      },
      {
        path: '/books/:booksId',
        errorElement: <CrashScreen />,
        lazy: async () => ({ Component: (await import('./BooksShell.tsx')).BooksShell }),
        children: [
          { index: true, element: <Navigate to="board" replace /> },
          {
            path: 'board',
            lazy: async () => ({
              Component: (await import('../screens/board/BoardScreen.tsx')).BoardScreen,
            }),
          },
          {
            path: 'desk',
            lazy: async () => ({
              Component: (await import('../screens/desk/DeskScreen.tsx')).DeskScreen,
            }),
          },
          {
            path: 'intake',
            lazy: async () => ({
              Component: (await import('../screens/intake/IntakeScreen.tsx')).IntakeScreen,
            }),
          },
          {
            path: 'intake/consent',
            lazy: async () => ({
              Component: (await import('../screens/intake/feeds/ConsentScreen.tsx')).ConsentScreen,
            }),
          },
          {
            path: 'intake/:batchId',
            lazy: async () => ({
              Component: (await import('../screens/intake/BatchScreen.tsx')).BatchScreen,
            }),
          },
          {
            path: 'rules/:ruleId?',
            lazy: async () => ({
              Component: (await import('../screens/rules/RulesScreen.tsx')).RulesScreen,
            }),
          },
          {
            path: 'habits',
            lazy: async () => ({
              Component: (await import('../screens/rules/HabitsScreen.tsx')).HabitsScreen,
            }),
          },
          {
            path: 'reports',
            lazy: async () => ({
              Component: (await import('../screens/reports/ReportsFrame.tsx')).ReportsFrame,
            }),
            children: [
              { index: true, element: <Navigate to="profit" replace /> },
              {
                path: 'profit',
                lazy: async () => ({
                  Component: (await import('../screens/reports/ProfitScreen.tsx')).ProfitScreen,
                }),
              },
              {
                path: 'balance-sheet',
                lazy: async () => ({
                  Component: (await import('../screens/reports/BalanceSheetScreen.tsx'))
                    .BalanceSheetScreen,
                }),
              },
              {
                path: 'trial-balance',
                lazy: async () => ({
                  Component: (await import('../screens/reports/TrialBalanceScreen.tsx'))
                    .TrialBalanceScreen,
                }),
              },
              {
                path: 'cash',
                lazy: async () => ({
                  Component: (await import('../screens/reports/CashScreen.tsx')).CashScreen,
                }),
              },
              {
                path: 'receivables',
                lazy: async () => ({
                  Component: (await import('../screens/reports/AgedScreen.tsx')).ReceivablesScreen,
                }),
              },
              {
                path: 'payables',
                lazy: async () => ({
                  Component: (await import('../screens/reports/AgedScreen.tsx')).PayablesScreen,
                }),
              },
              {
                path: 'payees',
                lazy: async () => ({
                  Component: (await import('../screens/reports/GroupedScreen.tsx')).ByPayeeScreen,
                }),
              },
              {
                path: 'cost-centres',
                lazy: async () => ({
                  Component: (await import('../screens/reports/GroupedScreen.tsx'))
                    .ByCostCentreScreen,
                }),
              },
              {
                path: 'jobs',
                lazy: async () => ({
                  Component: (await import('../screens/reports/GroupedScreen.tsx')).ByJobScreen,
                }),
              },
              {
                path: 'general-ledger',
                lazy: async () => ({
                  Component: (await import('../screens/reports/LedgerListScreen.tsx'))
                    .GeneralLedgerScreen,
                }),
              },
              {
                path: 'journal',
                lazy: async () => ({
                  Component: (await import('../screens/reports/LedgerListScreen.tsx'))
                    .JournalScreen,
                }),
              },
              {
                path: 'suspense',
                lazy: async () => ({
                  Component: (await import('../screens/reports/ClearingScreen.tsx')).ClearingScreen,
                }),
              },
              {
                path: 'statements',
                lazy: async () => ({
                  Component: (await import('../screens/reports/StatementsReportScreen.tsx'))
                    .StatementsReportScreen,
                }),
              },
              {
                path: 'recharges',
                lazy: async () => ({
                  Component: (await import('../screens/reports/RechargesScreen.tsx'))
                    .RechargesScreen,
                }),
              },
              {
                path: 'customer',
                lazy: async () => ({
                  Component: (await import('../screens/reports/PayeeAccountScreen.tsx'))
                    .PayeeAccountScreen,
                }),
              },
              {
                path: 'owners',
                lazy: async () => ({
                  Component: (await import('../screens/reports/OwnersScreen.tsx')).OwnersScreen,
                }),
              },
              {
                path: 'client-money',
                lazy: async () => ({
                  Component: (await import('../screens/reports/ClientMoneyScreen.tsx'))
                    .ClientMoneyScreen,
                }),
              },
              {
                path: 'tax',
                lazy: async () => ({
                  Component: (await import('../screens/reports/TaxReturnScreen.tsx'))
                    .TaxReturnScreen,
                }),
              },
              {
                path: 'hand-over',
                lazy: async () => ({
                  Component: (await import('../screens/reports/HandOverScreen.tsx')).HandOverScreen,
                }),
              },
              {
                path: 'coding',
                lazy: async () => ({
                  Component: (await import('../screens/reports/CodingRecordScreen.tsx'))
                    .CodingRecordScreen,
                }),
              },
            ],
          },
          {
            path: 'desk/pairing',
            lazy: async () => ({
              Component: (await import('../screens/pairing/PairingScreen.tsx')).PairingScreen,
            }),
          },
          {
            path: 'ledger/entries',
            lazy: async () => ({
              Component: (await import('../screens/ledger/EntriesPage.tsx')).EntriesPage,
            }),
          },
          {
            path: 'ledger/opening-balances',
            lazy: async () => ({
              Component: (await import('../screens/ledger/OpeningBalancesPage.tsx'))
                .OpeningBalancesPage,
            }),
          },
          {
            path: 'ledger/recurring',
            lazy: async () => ({
              Component: (await import('../screens/ledger/RecurringPage.tsx')).RecurringPage,
            }),
          },
          {
            path: 'ledger/tax-codes',
            lazy: async () => ({
              Component: (await import('../screens/ledger/TaxCodesPage.tsx')).TaxCodesPage,
            }),
          },
          {
            path: 'ledger/exchange-rates',
            lazy: async () => ({
              Component: (await import('../screens/currencies/ExchangeRatesPage.tsx'))
                .ExchangeRatesPage,
            }),
          },
          {
            path: 'ledger/bills',
            lazy: async () => ({
              Component: (await import('../screens/ledger/DocumentsPage.tsx')).BillsPage,
            }),
          },
          {
            path: 'ledger/invoices',
            lazy: async () => ({
              Component: (await import('../screens/ledger/DocumentsPage.tsx')).InvoicesPage,
            }),
          },
          {
            path: 'ledger/payees',
            lazy: async () => ({
              Component: (await import('../screens/ledger/PayeesPage.tsx')).PayeesPage,
            }),
          },
          {
            path: 'close/:month',
            lazy: async () => ({
              Component: (await import('../screens/closing/CloseScreen.tsx')).CloseScreen,
            }),
          },
          {
            path: 'statements',
            lazy: async () => ({
              Component: (await import('../screens/statements/StatementsScreen.tsx'))
                .StatementsScreen,
            }),
          },
          {
            path: 'statements/:bankAccountId/:to',
            lazy: async () => ({
              Component: (await import('../screens/statements/StatementScreen.tsx'))
                .StatementScreen,
            }),
          },
          {
            path: 'ledger/:accountId?',
            lazy: async () => ({
              Component: (await import('../screens/ledger/LedgerScreen.tsx')).LedgerScreen,
            }),
          },
          {
            path: 'settings',
            lazy: async () => ({
              Component: (await import('../screens/settings/SettingsScreen.tsx')).SettingsScreen,
            }),
          },
          {
            path: 'record',
            lazy: async () => ({
              Component: (await import('../screens/record/RecordScreen.tsx')).RecordScreen,
            }),
          },
          {
            path: 'history',
            lazy: async () => ({
              Component: (await import('../screens/history/HistoryScreen.tsx')).HistoryScreen,
            }),
          },
        ],
      },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
]);
