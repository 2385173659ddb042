import { expect, it } from 'vitest';
import { type ChartRow, readChart, writeChart } from './chartFile.ts';
import { starterAccounts } from './starterBooks.ts';

it('a chart that was saved is read again as it was', () => {
  const chart: ChartRow[] = starterAccounts.map(({ code, name, type, parent, tax, purpose }) => ({
    code,
    name,
    type,
    below: parent,
    tax,
    purpose,
  }));
  const { rows, problems } = readChart(writeChart(chart));
  expect(problems).toEqual([]);
  expect(rows.map(({ row: _, ...row }) => row)).toEqual(chart);
});

it('says what is wrong with each row, and reads the others', () => {
  const { rows, problems } = readChart(
    'Name;Code;Type;Tax\nKiln fuel;6210;expense;\nWheels;62 11;expense;\nGlaze;6212;cost;\nClay;6210;expense;\nHire;6213;Expense;sometimes\n;6214;expense;\n;;;',
  );
  expect(rows).toMatchObject([{ code: '6210', name: 'Kiln fuel', tax: 'byType', below: null }]);
  expect(problems.map(({ row, message }) => `${row} ${message}`)).toEqual([
    '3 “62 11” isn’t a code. Use up to 12 digits or capital letters.',
    '4 “cost” isn’t a type. Use asset, liability, equity, income, expense.',
    '5 The code 6210 is in the file twice.',
    '6 “sometimes” isn’t a way of tax. Use by type, none, by code.',
    '7 Enter a name of up to 100 letters.',
  ]);
  expect(readChart('Code;Title\n1;2').problems[0]?.message).toBe(
    'The first row names no column for the name and the type.',
  );
});
