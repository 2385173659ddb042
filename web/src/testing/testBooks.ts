import type { Account, BooksSetup, Payee } from '@zubrell/contract/books';

/** An account of which nothing is known but this; its id is its code. */
export function testAccount(
  code: string,
  name: string,
  type: Account['type'],
  role: Account['role'] = null,
): Account {
  const kept = {
    parentId: null,
    tax: 'byType',
    purpose: '',
    isOn: true,
    mergedInto: null,
  } as const;
  return { id: code, code, name, type, role, ...kept };
}

/** A payee of whom nothing is known but the name. */
export const testPayee: Payee = {
  id: 'tidemark',
  name: 'Tidemark Freight',
  kind: 'supplier',
  address: '',
  taxNumber: '',
  country: '',
  termsDays: null,
  accountId: null,
  capitalAccountId: null,
  isOn: true,
  mergedInto: null,
};

/** Books as the server tells them, for tests: ids are codes and names. */
export function testBooks(change: Partial<BooksSetup['books']> = {}): BooksSetup {
  return {
    books: {
      id: 'books',
      name: 'Larkmoor Kiln Works',
      currency: 'EUR',
      address: '',
      taxNumber: '',
      country: '',
      role: 'owner',
      lockDate: null,
      assetThreshold: 80_000,
      demands: {},
      accountsMadeBy: 'bookkeeper',
      usesOtherBooks: false,
      ages: { suspense: 14, transit: 7, outstanding: 60 },
      isArchived: false,
      taxReportedTo: null,
      yearBegins: 1,
      receiptFrom: null,
      leaves: { setAside: [], letRulesPost: [], close: [], reopen: [] },
      preferences: { hiddenFields: [], bankFields: ['bankAccount', 'reference'] },
      owners: ['Mo Oakes'],
      ...change,
    },
    accounts: [
      testAccount('1500', 'Equipment', 'asset', 'fixedAssets'),
      testAccount('3020', 'Owner’s drawings', 'equity', 'drawings'),
      testAccount('4010', 'Sales of goods', 'income'),
      testAccount('6010', 'Freight out', 'expense'),
      testAccount('6020', 'Market and stall fees', 'expense'),
    ],
    taxCodes: [],
    payees: [testPayee],
    costObjects: [],
    bankAccounts: [
      {
        id: 'everyday',
        name: 'Everyday account',
        kind: 'current',
        bank: null,
        number: null,
        currency: 'EUR',
        cycle: { kind: 'month' },
        holderNames: {},
        accountId: '1010',
        opening: null,
        closedTo: null,
        firstDate: null,
        lastDate: null,
      },
    ],
  };
}
