import { textOf } from './words/t.ts';

/**
 * Every error a user can meet: its HTTP status and its words. Code throws by name with {@link fail};
 * the server answers with problem details (RFC 9457) made from this table; the web shows them.
 * Placeholders stand in braces.
 */
export const errors = {
  // What was typed or read
  AMOUNT_UNREADABLE: [422, '“{text}” isn’t an amount. Example: {example}.'],
  AMOUNT_TOO_FINE: [422, '“{text}” has more than {digits} decimals, more than {currency} has.'],
  AMOUNT_TOO_LARGE: [422, '“{text}” is larger than any amount that can be kept exactly.'],
  AMOUNT_TWICE: [422, 'The row has an amount both paid out and paid in.'],
  AMOUNT_MISSING: [422, 'The amount is missing.'],
  DATE_UNREADABLE: [422, '“{text}” isn’t a date we can read.'],
  DATE_UNREAL: [422, '{day} {month} doesn’t exist.'],
  DATE_TOO_FAR: [422, '{day} {month} {year} is too far off: dates run from {first} to {last}.'],
  DATE_MISSING: [422, 'The date is missing.'],
  CURSOR_FOREIGN: [400, 'The list can’t continue from there. Load the page again.'],
  VALUE_UNKEPT: [422, 'A number, date or text is too large to be saved. Shorten or correct it.'],
  NAMED_UNKNOWN: [
    404,
    'Something this refers to is no longer in these books. Load the page again.',
  ],
  THERE_ALREADY: [409, 'Someone has just added the same thing. Load the page again.'],
  REQUEST_INVALID: [400, 'The request can’t be used: {detail}'],

  // Files
  FILE_UNKNOWN: [
    422,
    'We can’t read this file. Zubrell reads OFX, camt, MT940, MT942 and QIF, and CSV and XLSX with a date and an amount column.',
  ],
  FILE_EMPTY: [422, 'The file is empty.'],
  FILE_TOO_LARGE: [
    413,
    'The file is larger than {limit} MB, the most that can be imported at once.',
  ],
  FILE_CUT_OFF: [
    422,
    'The file ends in the middle of {what}. Everything before that was read. Download the file again.',
  ],
  FILE_XML_BROKEN: [
    422,
    'The file’s XML is broken here: {detail}. Everything before that was read.',
  ],
  FILE_XML_ENTITIES: [
    422,
    'The file declares a document type or entities, which no bank file needs. For safety, it isn’t read.',
  ],
  FILE_TOO_DEEP: [422, 'The file nests deeper than {limit} levels, which no bank file does.'],
  FILE_ENCODING: [
    422,
    'The file says it is {claimed}, but the bytes here are not. It was read as {used}; look at the accents.',
  ],
  FILE_CSV_BROKEN: [422, 'The row can’t be split into columns: {detail}'],
  FILE_FIELD_TOO_LONG: [
    422,
    'A text of more than a million characters begins here, which no bank file has. Everything before that was read.',
  ],
  FILE_ZIP_BROKEN: [
    422,
    'The spreadsheet can’t be unpacked. Fetch it again, or save it as CSV and choose that.',
  ],
  FILE_SHEET_TOO_LARGE: [
    422,
    'A sheet of this workbook has more than {cells} cells, or cells beyond column {columns}. Leave only the rows and columns of the bank in it, or save it as CSV.',
  ],
  FILE_ZIP_BOMB: [
    422,
    'The spreadsheet unpacks to more than {limit} MB, far more than one of its size should. For safety, it isn’t read.',
  ],
  FILE_INVESTMENTS: [
    422,
    'The file has an investment account here. Its trades are left out; only bank and card lines are read.',
  ],
  FILE_IDS_REPEATED: [
    422,
    'The bank gave {count} lines an id that another line of the file has. They are decided by date, amount and wording.',
  ],
  FILE_IDS_MISSING: [
    422,
    'The bank gave {count} lines no id. They are decided by date, amount and wording.',
  ],
  FILE_MORE_PROBLEMS: [
    422,
    'There are {count} more problems, too many to be a bank file of this kind. Look at how it is read.',
  ],
  FILE_NO_LINES: [422, 'The file holds no lines.'],
  FILE_DATES_OPEN: [422, '“{date}” may have the day or the month first. Choose which under Dates.'],
  FILE_DATES_AHEAD: [
    422,
    'Lines are dated after today, up to {date}. Confirm the dates, or change how they are read.',
  ],
  FILE_HAS_REFUSED: [
    409,
    'Unreadable records in the file: {count}. Nothing was imported. Check them, then import the rest if that is right.',
  ],
  FILE_OTHER_CURRENCY: [
    409,
    'The file is in {file}, the bank account {account} in {currency}. Nothing was imported.',
  ],
  FILE_OTHER_NUMBER: [
    409,
    'The file is of account {file}, the chosen bank account is {account}. Confirm it if that is right. Nothing was imported.',
  ],
  FILE_OTHER_BALANCE: [
    409,
    'With this file the account would stand at {here} on {date}, but by the file’s balances at {stated}: {difference} is missing or too much. Confirm it if you know why. Nothing was imported.',
  ],
  FILE_GAP: [
    409,
    'The file’s own balances don’t fit its lines: {difference} is missing or too much. Confirm it if you know why. Nothing was imported.',
  ],
  LINE_NOT_FOLDED: [
    409,
    'The row is already a line of its own, or the line it matched is here only through this import.',
  ],
  LINE_APART: [409, 'The row is already a line of its own.'],
  BATCH_UNKNOWN: [404, 'That import isn’t in these books.'],
  BATCH_NOT_KEPT: [409, 'This import isn’t in the books now: it is {state}.'],
  BATCH_SAME_ACCOUNT: [422, 'The import is already in that bank account. Choose another one.'],
  LINE_UNREADABLE: [422, 'The line has no date, side and amount where they belong.'],
  FILE_TEXT_CUT: [
    422,
    'A text of {lines} is far longer than banks write: it is cut after {longest} characters or fewer.',
  ],
  ROWS_ABOVE: [422, '{rows} above the headings: passed over.'],
  ROWS_NO_LINE: [422, '{rows}: no line but a title or a total, passed over.'],
  ROW_AS_HEADINGS: [
    422,
    'The row reads like a line, but the headings are set to be in it or below it.',
  ],
  ROW_SHORT: [422, 'The row has {found} columns, the header has {expected}.'],
  UPLOADS_TOO_MANY: [
    429,
    '{count} files are already being uploaded. Wait until one of them is done, then choose this one again.',
  ],
  UPLOAD_STALLED: [
    408,
    'The upload stopped for {seconds} seconds. Check the connection and choose it again.',
  ],
  FILES_TOO_MUCH: [
    413,
    'More than {limit} MB of files were uploaded to these books in one day. Choose this one again tomorrow.',
  ],
  ATTACHMENTS_TOO_MUCH: [
    413,
    'The attachments of these books would take more than {limit} MB. Attach smaller scans.',
  ],
  UPLOAD_MISSING: [404, 'That upload is no longer here. Choose the file again.'],

  // Splits and tax
  SPLIT_FIXED_TOO_LARGE: [422, 'The fixed parts total {fixed}, more than the line’s {line}.'],
  SPLIT_NOT_WHOLE: [422, 'The parts total {parts}, but the line is {line}. {rest} is left.'],
  SPLIT_PERCENT: [422, 'The percentages total {sum} %, not 100 %.'],
  SPLIT_RATE: [422, 'A deduction of {rate} % can’t be grossed up.'],
  SPLIT_EMPTY: [422, 'The split has no parts. Add at least one.'],
  TAX_CORRECTION: [
    422,
    'A tax of {tax} is too far from the {expected} that {rate} % gives. A few cents may be corrected.',
  ],
  TAX_NOT_HERE: [
    422,
    '{account} takes no tax, because nothing is bought or sold through it. Remove the tax code {code}.',
  ],
  RECHARGE_INVOICED: [
    409,
    'This cost is on invoice {number}. Void the invoice first, then change the cost.',
  ],
  RECHARGE_TAKEN: [
    409,
    'A cost on this invoice can’t be recharged any more: someone has invoiced or changed it. Load the page again.',
  ],
  TAX_OTHER_SIDE: [
    422,
    'The tax code {code} is for {use} only and can’t go with {account}. Choose another tax code.',
  ],
  TAX_CODE_OFF: [422, 'The tax code {name} is switched off. Choose another.'],
  TAX_CODE_TAKEN: [409, 'These books already have a tax code {name}. Choose another name.'],
  TAX_RATE_TWICE: [422, 'Two rates begin on {date}. Keep one of them.'],
  TAX_RATE_KIND: [422, 'A tax code of this kind has no rate above zero. Remove the rates.'],
  TAX_RATE_NEEDED: [422, 'Enter a rate above zero, and the day it applies from.'],
  TAX_ACCOUNT_TYPE: [
    422,
    '{account} can’t take this tax: choose an asset or liability account that isn’t a bank account.',
  ],
  TAX_RETURN_EARLY: [422, 'The period doesn’t end until {to}. File the return after that.'],
  TAX_RETURN_ORDER: [
    422,
    'Tax is already reported up to {reported}. Choose a period that ends later.',
  ],
  TAX_RETURN_GAP: [
    422,
    'Tax is reported up to {reported}, so the next return begins on {from}. Load the page again.',
  ],
  TAX_RETURN_CHANGED: [
    409,
    'The tax due has changed to {due} since you looked at the return. Look at it again, then file it.',
  ],
  TAX_ACCOUNTS_OFF: [
    409,
    'The return and the tax accounts differ by {off}. Find the difference below before you file the return.',
  ],
  TAX_ACCOUNT_MISSING: [422, 'The tax code {name} has no account for its tax yet.'],
  RATE_MISSING: [
    422,
    'There is no exchange rate of {currency} for {date}, nor for the ten days before. Enter one under Ledger, Exchange rates: 1 {currency} is how much {own}?',
  ],
  RATE_OWN: [422, 'These books are kept in {currency}. Rates are for other currencies.'],
  RATE_SAME: [409, 'The rate of {currency} for {date} is already that.'],
  RATE_UNKNOWN: [404, 'That exchange rate is not in these books.'],
  RATES_TOO_MANY: [
    422,
    'The file has {count} rates of your currencies, and {most} can be imported at once. Split it by years.',
  ],
  VALUATION_NOTHING: [
    409,
    'Nothing needs valuing: all open items in other currencies are already at the rate of the day.',
  ],
  TAX_RATE_MISSING: [422, 'The tax code {name} has no rate on {date}.'],

  // Coding and posting
  CODING_INCOMPLETE: [
    422,
    'Enter {what}: these books require it here. An owner can change the required fields in Settings.',
  ],
  ARCHIVE_UNREADABLE: [
    422,
    'That file isn’t an archive of books: {what}. Choose the ZIP file that Hand over saved, as it is.',
  ],
  ARCHIVE_NEWER: [
    422,
    'The archive was written by a newer version ({version}). Update this server, then read the archive again.',
  ],
  ARCHIVE_FILE: [
    422,
    '{file} in the archive was changed or is broken: {what}. Nothing was read. Save the archive again in the original books.',
  ],
  ARCHIVE_BALANCES: [
    422,
    'Read in, {accounts} would have other balances than the archive says. Nothing was read. Save the archive again in the original books.',
  ],
  ARCHIVE_EMPTY: [
    422,
    'These books have no entries and no lines yet, so there is nothing to hand over.',
  ],
  STEP_ARCHIVE: [
    409,
    'That step read the archive these books come from, so it can’t be undone. To put the books away, archive them in Settings.',
  ],
  CLIENT_MISSING: [
    422,
    '{account} holds clients’ money, so each part needs its client. Choose the client, or a customer as the payee.',
  ],
  CLIENT_BELOW_ZERO: [
    409,
    'At the end of {date}, {client} would be below zero in {account}. Check whose money it is, or post the money received first.',
  ],
  OPENING_MISSING: [
    409,
    '{name} has no opening balance yet. Post it first, with whose money it is.',
  ],
  CLIENT_SHARES: [
    422,
    'The clients’ shares total {shares}, but the opening balance is {opening}. Correct the shares, or leave the rest out until you know whose it is.',
  ],
  RELATED_ACCOUNT: [
    422,
    '{payee} is another business of the same owner: what goes to it or comes from it is posted to {account}, not to {other}.',
  ],
  RELATED_ACCOUNT_MISSING: [
    422,
    '{payee} is another business of the same owner, but no account between the two is chosen. Choose one under Payees.',
  ],
  PAYEE_ACCOUNT: [
    422,
    '{account} can’t be used for that. Choose an account of the type {types} that isn’t a bank account.',
  ],
  PAYEE_NO_OWN_ACCOUNT: [
    422,
    '{payee} is neither an owner nor another business of the owner, so it has no account of its own. Change the payee’s kind first.',
  ],
  PRIVATE_BANK: [
    422,
    '{name} is a bank account of these books, so what moves there wasn’t paid privately. Choose the account of the cost.',
  ],
  OWNER_UNKNOWN: [422, 'Choose who paid: a payee of the kind Owner.'],
  ACCOUNTS_WITHHELD: [
    403,
    'Only the owner of these books can add accounts. Choose another account, or ask {who}.',
  ],
  ACCOUNT_BELOW_ITSELF: [422, '{name} can’t be below itself. Choose another account, or none.'],
  ACCOUNT_BELOW_TYPE: [
    422,
    '{name} can’t be below {parent}: one is of the type {type}, the other {parentType}. Choose an account of the same type.',
  ],
  ACCOUNT_OFF: [422, 'The account {name} is switched off. Choose another.'],
  ACCOUNT_CONTROL: [
    422,
    '{name} is used by bills, invoices and their payments, so it can’t be coded to directly. Pair the line with the document, or keep it as credit with the payee.',
  ],
  ACCOUNT_ROLE_TYPE: [
    422,
    '{name} can’t be used for {what}: that takes {types}, and no bank account. Choose another account.',
  ],
  ACCOUNT_ROLE_OPEN: [
    409,
    '{count} documents are open on {name}, so another account can’t be used for {what} yet. Settle or void them first.',
  ],
  ACCOUNT_IS_BANK: [
    422,
    'The account {name} is a bank account. A line can move there as a whole; a document or one of several parts cannot.',
  ],
  TRANSFER_SELF: [422, 'This line is on {name} itself. Choose the other account of the transfer.'],
  ACCOUNT_UNKNOWN: [404, 'That account is not in these books.'],
  ACCOUNT_ROLE_FIXED: [409, '{name} has a use of its own in these books, which can’t be changed.'],
  ACCOUNT_MERGE_SELF: [422, 'An account can’t be merged into itself. Choose another.'],
  ACCOUNT_MERGE_UNLIKE: [
    422,
    '{name} and {other} differ in {what}, so they can’t be merged. Choose another account.',
  ],
  ACCOUNT_MERGE_USED: [422, '{name} is {what}, so it can’t be merged.'],
  ACCOUNT_CODE_TAKEN: [409, 'The code {code} is already {name}. Choose another code.'],
  COST_OBJECT_UNKNOWN: [404, 'That cost centre or job is not in these books.'],
  COST_OBJECT_TAKEN: [409, 'There is already a {name}. Choose another name.'],
  PAYEE_UNKNOWN: [404, 'That payee is not in these books.'],
  PAYEE_TAKEN: [409, 'There is already a payee {name}. Choose that one, or another name.'],
  PAYEE_SAME: [422, 'Choose another payee, one that is in use.'],
  TAX_CODE_UNKNOWN: [404, 'That tax code is not in these books.'],
  ACCOUNT_ROLE_MISSING: [
    409,
    'These books have no account for {what}. Choose one under Ledger, in the account’s “Used for”.',
  ],
  ENTRY_UNKNOWN: [404, 'That entry is not in these books.'],
  ENTRY_UNBALANCED: [500, 'An entry that doesn’t balance was stopped. Nothing was posted.'],
  ENTRY_PAIRED: [
    409,
    'This is paired with a line of the bank, or pays a document. Undo that first; then it can be changed.',
  ],
  ENTRY_NOT_BY_HAND: [409, 'This entry was made by a line or a document. Change it there.'],
  ENTRY_VOID: [409, 'This entry is already void.'],
  ENTRY_IN_USE: [
    409,
    'Something else depends on this: its credit has been used, or its payment was returned. Undo that first; then it can be changed.',
  ],
  SETTLE_PAYEE: [
    422,
    'An entry can only settle documents of one payee, its own. Choose the payee first.',
  ],
  SETTLE_MORE: [
    422,
    'An entry can’t settle more of a document than is open of it. Look at what is open, and enter less.',
  ],
  SETTLE_OVER: [
    422,
    'The documents total more than the amount. Settle less of them, or enter a higher amount.',
  ],
  SETTLE_NO_CREDIT: [
    422,
    'There is nothing to keep as credit: choose a payee, and enter more than the total of the documents.',
  ],
  SETTLE_NOTHING_LEFT: [
    422,
    'The documents take all of the amount, so nothing is left to code. Take the accounts out, or settle less.',
  ],
  ENTRY_NIL: [422, 'An entry can’t be of zero. Enter an amount.'],
  JOURNAL_CURRENCY: [
    422,
    '{name} is in another currency, so a journal can’t name its amount. Enter a payment, receipt or transfer.',
  ],
  SETTLE_CURRENCY: [
    422,
    '{what} is in {currency}, and this bank account isn’t. Pair the bank’s line with it when it comes.',
  ],
  JOURNAL_UNBALANCED: [422, 'Debits total {debits} and credits {credits}. They must be equal.'],
  DOCUMENT_UNKNOWN: [404, 'That document is not in these books.'],
  DOCUMENT_CHANGED: [409, '{what} has changed since you opened it. Look again before you go on.'],
  DOCUMENT_VOID: [409, 'This document is already void.'],
  DOCUMENT_THERE: [409, '{what} {number} of {payee} is already in the books.'],
  DOCUMENT_PAID: [
    409,
    '{what} is paid in whole or in part. Undo that first; then it can be changed.',
  ],
  DOCUMENT_ISSUED: [
    409,
    'An invoice that was sent can’t be changed. Enter a credit note for it, and a new invoice if needed.',
  ],
  DOCUMENT_OVERPAID: [
    409,
    'A document would be settled by more than its total, or while it is void. Someone has paid it since you looked. Look again.',
  ],
  OFFSET_PAYEES: [422, 'Only documents of one payee can be settled against each other.'],
  INVOICE_UNREADABLE: [
    422,
    'This can’t be read as an electronic invoice: {detail}. Ask the sender for it as UBL 2.1 or Cross Industry Invoice.',
  ],
  INVOICE_NEEDS: [422, 'An electronic invoice needs {what}. Add it, then save the invoice again.'],
  INVOICE_NO_XML: [
    422,
    'This PDF has no electronic invoice inside. Enter the bill by hand, or ask the sender for the XML.',
  ],
  OFFSET_CURRENCIES: [
    422,
    'These documents are in different currencies. Set off those of one currency.',
  ],
  OFFSET_NOTHING: [
    422,
    'There is nothing to set against each other: a credit note or credit, and an open document.',
  ],
  DOCUMENT_NIL: [422, 'A document needs an amount above zero.'],
  PAIR_NOTHING: [422, 'Choose what the line is paired with.'],
  PAIR_TWO_ACCOUNTS: [
    422,
    'These lines are of different bank accounts. Pair the lines of each account separately.',
  ],
  PAIR_OTHER_ACCOUNT: [422, '{what} is on {account}, the line on {line}. They can’t be the same.'],
  PAIR_TAKEN: [409, '{what} has been paired or changed since you looked. Look again.'],
  PAIR_DIFFERENCE: [
    422,
    'The line is {by} off what it is paired with. Say what that is: correct the entry, leave the rest open, or code it with a reason.',
  ],
  PAIR_DIRECTION: [
    422,
    'This money goes the other way, so it can’t pay these. Look for a refund, or for a payment that came back.',
  ],
  PAIR_NO_DIFFERENCE: [422, 'There is no difference left to settle. Look again.'],
  PAIR_CORRECT: [
    422,
    'This can’t be corrected from here: it has several parts, or is in a closed period. Change it in the ledger.',
  ],
  PAIR_BANK: [
    422,
    'The rest can’t go to {name}: that is a bank account, and its own line would book it again. Choose another account.',
  ],
  PAIR_PART_PAID: [
    422,
    'Only documents can be left open in part, and only where less was paid than is open.',
  ],
  PAIR_ON_ACCOUNT: [
    422,
    'Only what is paid beyond the documents of one payee, or before there are any, can stay as credit. Choose the payee.',
  ],
  PAIR_UNBALANCED: [500, 'A pairing that doesn’t balance was stopped. Nothing was paired.'],
  LINE_UNKNOWN: [404, 'That line is not in these books.'],
  LINE_CHANGED: [
    409,
    '{who} has changed this line since you opened it ({what}). Look again before you go on.',
  ],
  LINE_DECIDED: [409, 'This line is already {state}.'],
  LINE_UNREAD: [409, 'The proposal for this line has changed since you looked. Look again.'],
  LINE_IN_BOOKS: [
    409,
    'This seems to be in the books already ({what}). Pair it, or code it as new.',
  ],
  LINE_NIL: [422, 'A line can’t be of zero. Enter an amount.'],
  LINE_OTHER_CURRENCY: [422, '{name} is in {currency}, and this line isn’t.'],
  LINE_THERE: [409, 'This line is already in {name}.'],
  LINE_DECIDED_SINCE: [409, 'This line was decided again after step {step}.'],
  LINE_HELD: [409, 'Other steps depend on this line: {steps}. Undo them first.'],
  LINE_TWICE: [
    409,
    'This may be the same payment twice. Decide that first: exclude the copy, or confirm that both are real.',
  ],
  LINE_NOT_TWICE: [409, 'This line isn’t marked as a possible duplicate.'],
  DRAFT_CHANGED: [
    409,
    '{who} has changed the draft of this line since you opened it. What you typed is still in the field.',
  ],
  STACKS_SAME: [422, 'These lines are already in one stack.'],
  STACK_WORD: [422, 'No line of this stack has the word “{word}”.'],
  RECODE_ELSEWHERE: [422, 'No part of this line is on that account.'],
  DECIDED_TOO_MANY: [
    422,
    'More than {most} lines match. Choose a shorter period or another filter, and change them in several steps.',
  ],
  RECODE_SPLIT: [
    422,
    'This line is split. Filter by the account that is wrong to change its parts on it, or reopen the line.',
  ],
  REPORT_TURNED: [422, 'The period ends on {to}, before it begins on {from}. Swap the two days.'],
  REPORT_LONG: [
    422,
    'The period has more than {most} months. Choose a later first day, or an earlier last day.',
  ],
  REVERSAL_EARLY: [
    422,
    '{date} is before the journal’s own date, {of}. Choose a later day to reverse it on.',
  ],
  REVERSAL_NOT_JOURNAL: [
    422,
    'Only a journal can be reversed, and a reversal can’t. Change or void this entry instead.',
  ],
  ENTRY_REVERSED: [409, 'This journal is already reversed on {date}. Change that date instead.'],
  JOURNAL_ON_BANK: [
    422,
    'A journal that touches a bank account can’t recur or be reversed, because the bank reports its own lines. Leave the bank account out, or enter a payment instead.',
  ],
  JOURNAL_PLAN_UNKNOWN: [
    404,
    'That recurring journal isn’t in these books any more. Load the page again.',
  ],
  JOURNAL_NOT_DUE: [
    409,
    '“{name}” can’t be posted or skipped for {date}: it doesn’t fall on that day, or somebody has already done it. Load the page again.',
  ],
  JOURNAL_END_EARLY: [
    422,
    'The last date, {end}, is before the first, {start}. Choose a later last date, or leave it empty.',
  ],
  PERIOD_CLOSED: [409, '{date} is in a closed period (up to {closed}). Nothing was changed.'],
  STATEMENT_UNKNOWN: [404, 'No statement of this account ends on that day. Go back to the list.'],
  STATEMENT_AGREED: [409, 'The statement to {to} is agreed. Reopen it to change it.'],
  STATEMENT_NOT_AGREED: [409, 'The statement to {to} isn’t agreed, so it can’t be reopened.'],
  STATEMENT_BEFORE_OPEN: [
    409,
    'The statement to {to} comes first. Agree it, then this one: each opens at what the one before closed at.',
  ],
  STATEMENT_AFTER_AGREED: [
    409,
    'The statement to {to} is agreed and follows this one. Reopen that one first.',
  ],
  STATEMENT_OVERLAPS: [
    422,
    'The statement would reach into the one to {to}. Choose a day before {from}.',
  ],
  STATEMENT_DATES: [
    422,
    'The statement would end on {to}, before it begins on {from}. Choose a later day.',
  ],
  STATEMENT_CURRENCY: [
    422,
    'The balance is in {given}, and this account is in {currency}. Type the balance in {currency}.',
  ],
  STATEMENT_NO_OPENING: [
    422,
    '{name} has no opening balance. Record it under Ledger, then agree the statement.',
  ],
  STATEMENT_NO_CLOSING: [
    422,
    'The closing balance is missing. Type what the bank’s statement says on {to}.',
  ],
  STATEMENT_OFF: [
    409,
    'Opening balance and lines add up to {adds}, and the statement says {says}: {off} is off. Find the cause first.',
  ],
  STATEMENT_LINES_OPEN: [
    409,
    '{count} lines of this statement aren’t decided. Post, pair or exclude them, or ask about them.',
  ],
  STATEMENT_CHANGED: [
    409,
    '{who} changed lines of this statement after you opened it ({what}). Look at it again, then agree it.',
  ],
  STATEMENT_LINE_TIED: [
    409,
    '“{text}” is paired with other lines, or something depends on how it was posted. Reopen it on the Desk first.',
  ],
  STATEMENT_TICKED_ONLY: [
    422,
    'Entries are ticked only where no file or feed brings lines, and {name} has lines.',
  ],
  STATEMENT_LINE_ELSEWHERE: [409, 'A line isn’t in this statement any more. Load the page again.'],
  STATEMENT_PARTS_GONE: [
    409,
    'The statement to {to} can’t be agreed as it was: {count} of its lines are gone or kept out. Agree it as it is now.',
  ],
  CLOSING_NOTE_NEEDED: [
    422,
    '{count} items are open. Settle them, or say in the note what is accepted and why.',
  ],
  CLOSING_CHANGED: [
    409,
    '{who} changed these books after you opened the month ({what}). Look at it again, then close it.',
  ],
  CLOSING_NOT_OVER: [422, '{month} isn’t over. Close it from {from} on.'],
  CLOSING_STATE: [409, '{month} is {state}, so this can’t be done. Load the page again.'],
  LEAVE_NEEDED: [
    403,
    'Your role in these books doesn’t let you {what}. Ask the owner, who can change this under Settings.',
  ],
  STATEMENT_COUNTS_LINE: [
    409,
    'The agreed statement to {to} counts this line. Reopen that statement to keep the line out.',
  ],
  EXCLUDE_REASON: [422, 'Give the reason: second copy, before the opening balance, or bank error.'],
  EXCLUDE_NOT_BEFORE: [
    422,
    'The line of {date} isn’t before the opening balance of {opening}. Choose another reason.',
  ],
  EXCLUDE_NO_OPENING: [
    422,
    'This bank account has no opening balance yet, so no line is before it. Enter the opening balance first.',
  ],
  EXCLUDE_NO_ORIGINAL: [
    422,
    'No other line of this account has the same amount within a month, so this isn’t a second copy. Choose another reason.',
  ],
  EXCLUDE_WHICH_COPY: [
    422,
    'Several lines have the same amount. Choose the one that this line is a copy of.',
  ],
  EXCLUDE_NOT_ZERO: [
    422,
    'These lines total {total}. A bank error is excluded together with its correction, so that the total is 0.00: tick both lines.',
  ],

  // Rules
  RULE_UNKNOWN: [404, 'That rule is not in these books any more.'],
  RULE_CHANGED: [
    409,
    '{who} has changed this rule since you opened it ({what}). Look again before you save.',
  ],
  RULE_NAME: [422, 'A rule needs a name.'],
  RULE_NO_CONDITION: [
    422,
    'A rule with no condition would match every line. Add at least one condition.',
  ],
  RULE_EMPTY_GROUP: [422, 'This group has no condition. Add one, or remove the group.'],
  RULE_NO_TEXT: [422, 'The condition on the {field} is empty. Type a word.'],
  RULE_SHORT_WORD: [
    422,
    '“{word}” is too short: almost every line contains one letter. Type a longer word.',
  ],
  RULE_WILD: [422, '“{text}” is only wildcards and would match everything. Add letters to it.'],
  RULE_AMOUNTS: [422, 'The amounts from {from} to {to} are the wrong way round, or missing.'],
  RULE_DATES: [422, 'The dates from {from} to {to} are the wrong way round, or missing.'],
  RULE_DAYS: [422, 'Days of the month go from 1 to 31, not from {from} to {to}.'],
  RULE_PERCENT: [422, '{percent} % is not possible. Percentages go from 0 to 100.'],
  RULE_NO_BANK_ACCOUNT: [422, 'Choose at least one bank account for the rule.'],
  RULE_CYCLE: [
    422,
    'Lines of {name} can’t be moved to {name}. Choose the bank accounts it takes lines from.',
  ],
  RULE_NO_QUESTION: [422, 'Enter who to ask, and what.'],
  RULE_NAMES_GONE: [422, 'The rule names {what}, which is not in these books. Choose another.'],
  RULE_LINE_RIGHT: [409, 'The rule would code this line as it is.'],
  RULE_POST_EARLY: [
    409,
    'Posting at once is available after you have kept {needed} proposals in a row; so far {kept}.',
  ],
  RULE_POST_WHAT: [422, 'Only coding and transfers can be posted at once.'],
  RULE_FILE_UNREADABLE: [422, 'This isn’t a rule file: {detail}.'],
  RULE_FILE_VERSION: [
    422,
    'This rule file has version {version}; version {known} is what can be read here.',
  ],
  RULE_FILE_CURRENCY: [
    422,
    'The amounts in this rule file are in {file}, and these books are kept in {currency}.',
  ],
  RULE_FILE_CHOICE: [
    422,
    'Nothing was chosen for “{name}”. Choose what it is here, or leave it out.',
  ],

  // Habits
  HABIT_UNKNOWN: [404, 'That habit no longer exists.'],

  // Questions and attachments
  LINE_NOT_ASKED: [
    409,
    'No question about this line is waiting for an answer. Ask one first, so that it isn’t forgotten.',
  ],
  SUSPENSE_MISSING: [409, 'These books have no suspense account.'],
  QUESTION_UNKNOWN: [404, 'That question is not in these books, or was withdrawn.'],
  ATTACHMENT_UNKNOWN: [404, 'That attachment isn’t in these books.'],
  ATTACHMENT_TYPE: [422, 'Only PDF, PNG and JPEG files can be attached.'],

  // Books and bank accounts
  BANK_ACCOUNT_UNKNOWN: [404, 'That bank account is not in these books.'],
  BANK_ACCOUNT_TAKEN: [409, 'The number {number} already belongs to {name}.'],
  OPENING_TWICE: [409, '{name} already has its opening balance.'],
  OPENING_AFTER_LINES: [
    422,
    'The opening balance of {date} must be dated before the first line, {first}.',
  ],

  // Feeds
  BANK_UNKNOWN: [404, 'There is no connection to that bank.'],
  CONSENT_UNKNOWN: [404, 'This answer doesn’t match any of our requests. Start again from Intake.'],
  FEED_UNKNOWN: [404, 'That feed is not in these books.'],
  FEED_NO_ACCOUNT: [422, 'Choose which bank account {name} is first.'],
  FEED_TAKEN: [409, '{name} is already fed by {feed}. End that feed first.'],
  FEED_REFUSED: [409, '{bank} didn’t give consent. Nothing was changed; you can ask again.'],
  FEED_CONSENT_EXPIRED: [
    409,
    'The consent for {bank} has expired or was withdrawn. Sign in at the bank again. Imported lines stay.',
  ],
  FEED_BANK_DOWN: [
    503,
    '{bank} isn’t answering. Nothing was lost. Try again later, or import a file.',
  ],
  FEED_GARBAGE: [502, '{bank} didn’t send a valid list of lines ({detail}). Nothing was imported.'],
  FEED_TOO_MANY: [429, '{bank} takes no more requests for {minutes} minutes.'],
  FEED_KEY_GONE: [409, 'The key that kept the consent of {bank} is gone. Give the consent again.'],
  FEED_ACCOUNT_GONE: [
    409,
    '{bank} no longer gives access to {name}. Sign in again and tick it there.',
  ],
  WATCH_NOT_OFFERED: [
    409,
    'This server watches no folder. Ask whoever runs it to set ZUBRELL_WATCH.',
  ],
  WATCH_FOLDER_CLOSED: [
    409,
    'The server can’t write to the folder {folder}. Ask whoever runs it to allow that.',
  ],
  WATCH_NOBODY: [
    409,
    '{name}, who turned on the watched folder, can’t import here any more. Turn it off and on again to import in your name.',
  ],
  WATCH_NO_NUMBER: [
    422,
    'The file doesn’t say which bank account it is for. Import it by hand instead.',
  ],
  WATCH_NO_ACCOUNT: [
    422,
    'The file is for account {number}, but no bank account here has that number. Add the number to its bank account, then put the file into the folder again.',
  ],
  WATCH_SEVERAL_ACCOUNTS: [
    422,
    'The file is for account {number}, a number that several bank accounts have: {names}. Correct it, then put the file into the folder again.',
  ],

  // Steps
  STEP_UNKNOWN: [404, 'That step is not in the history of these books.'],
  STEP_NOTHING: [409, 'You have nothing to undo.'],
  STEP_NO_REDO: [409, 'There is nothing to bring back.'],
  STEP_UNDONE: [409, 'This step has already been undone.'],
  STEP_TOUCHED: [
    409,
    'These steps depend on it or changed the same things: {steps}. Undo them first, or together with it.',
  ],
  STEP_RESTS: [
    409,
    'It depends on steps that were undone: {steps}. Redo them first, or together with it.',
  ],
  STEP_MIXED: [
    409,
    'These steps depend on it or changed the same things: {steps}. It also depends on steps that were undone: {undone}. All of them change together.',
  ],
  STEP_HELD: [
    409,
    'Step {steps} can’t be undone or redone: what it changed has been changed since. Correct the entry or line itself instead.',
  ],
  STEP_FEEDS: [
    409,
    'The feed {feed} brings lines into {name}. End that feed in Intake first, then undo this.',
  ],

  // Who may
  SIGN_IN_NEEDED: [401, 'Sign in first.'],
  SIGN_IN_WRONG: [401, 'The e-mail address or the password is wrong.'],
  SIGN_IN_TOO_OFTEN: [429, 'Too many attempts. Wait {seconds} seconds.'],
  SET_UP_CODE_WRONG: [
    403,
    'The set-up code is wrong. It was printed where the server was started.',
  ],
  SET_UP_DONE: [409, 'The first user already exists. Sign in, or ask for an invitation.'],
  PASSWORD_WRONG: [403, 'The current password is wrong.'],
  SECOND_FACTOR_NEEDED: [401, 'Type the code that your device shows, or a recovery code.'],
  SECOND_FACTOR_WRONG: [
    401,
    'The code is wrong, or was used before. Wait for the next one on your device.',
  ],
  SECOND_FACTOR_ON: [409, 'A second factor is already on. Turn it off first.'],
  SECOND_FACTOR_LOST: [
    409,
    'The server has lost the key to your second factor. Whoever runs the server can send you a link to start again.',
  ],
  PASSKEY_WRONG: [401, 'The passkey was not accepted. Try again, or sign in with your password.'],
  PASSKEY_UNKNOWN: [404, 'This passkey no longer exists. Load the page again.'],
  PASSKEY_ADDRESS: [
    409,
    'Passkeys need a name: open this page under the server’s name, not its address.',
  ],
  RESET_UNKNOWN: [404, 'This link was used or replaced, or has expired. Ask for another.'],
  RESET_OWN: [409, 'Change your own password under “Your account”.'],
  MEMBER_ELSEWHERE: [
    409,
    '{name} also works with books that you don’t own. Whoever runs the server can do this.',
  ],
  STREAMS_TOO_MANY: [429, 'These books are open in too many windows at once. Close some of them.'],
  EVENT_ID_WRONG: [400, 'The Last-Event-ID isn’t the number of a step.'],
  HOST_FOREIGN: [
    421,
    'This server does not go by that name. Whoever runs it can add the name to ZUBRELL_HOSTS.',
  ],
  ORIGIN_FOREIGN: [403, 'The request came from another site.'],
  BOOKS_UNKNOWN: [404, 'These books don’t exist, or you have no access to them.'],
  ROLE_TOO_LOW: [403, 'As {role} you can’t do this here. Ask the owner of the books.'],
  INVITATION_UNKNOWN: [
    404,
    'This invitation was used or withdrawn, or has expired. Ask for another.',
  ],
  EMAIL_TAKEN: [
    409,
    'There is a user with this e-mail address. Sign in first, then open the link.',
  ],
  OWNER_NEEDED: [409, 'Books need an owner. Make someone else an owner first.'],
  MEMBER_UNKNOWN: [404, 'That person no longer works with these books.'],
  DEMO_ONLY: [404, 'There is no demo here.'],

  // The machine
  KEY_TOO_LONG: [400, 'The idempotency key is longer than {longest} characters.'],
  KEY_REUSED: [422, 'The same key came with another request. Send it again with a new key.'],
  NOT_FOUND: [404, 'There is nothing at this address.'],
  BUSY: [
    503,
    'These books are busy with other work. Nothing was changed. Try again in a few seconds.',
  ],
  TOOK_TOO_LONG: [
    503,
    'That took longer than the server allows. Nothing was changed. Ask for less at once, or try again later.',
  ],
  DATABASE_AWAY: [503, 'The database can’t be reached just now. Try again in a few seconds.'],
  JOB_UNKNOWN: [404, 'That work has already ended.'],
  JOB_RUNNING: [409, 'That work is in progress. Wait until it has ended.'],
  JOB_GIVEN_UP: [
    500,
    'This was tried several times and did not succeed, for a reason on our side. Nothing was changed. Try again.',
  ],
  INTERNAL: [500, 'Something went wrong on our side. Nothing was changed. Try again.'],
} as const satisfies Record<string, readonly [status: number, message: string]>;

/** The name of an error in the table. */
export type ErrorCode = keyof typeof errors;

/** All codes, as a schema wants them. */
export const errorCodes = Object.keys(errors) as [ErrorCode, ...ErrorCode[]];

/** Values for a message's placeholders. */
export type ErrorParams = Readonly<Record<string, string | number>>;

/** An error from the table, with its values. */
export class ZubrellError extends Error {
  readonly code: ErrorCode;
  readonly params: ErrorParams;

  constructor(code: ErrorCode, params: ErrorParams = {}) {
    super(messageOf(code, params));
    this.name = 'ZubrellError';
    this.code = code;
    this.params = params;
  }

  /** The HTTP status the table gives this error. */
  get status(): number {
    return errors[this.code][0];
  }
}

/**
 * The words of an error with its placeholders filled in.
 *
 * @example messageOf('DATE_UNREAL', { day: 31, month: 'February' }) // '31 February doesn’t exist.'
 */
export function messageOf(code: ErrorCode, params: ErrorParams = {}): string {
  return textOf(errors[code][1]).replace(/\{(\w+)\}/g, (whole, name: string) =>
    name in params ? String(params[name]) : whole,
  );
}

/** Throws the error of that name. @throws {ZubrellError} always */
export function fail(code: ErrorCode, params: ErrorParams = {}): never {
  throw new ZubrellError(code, params);
}
