import { escapeXml as safe } from '@zubrell/core/formats/write/xml';
import type { ConsentRequest } from './bank.ts';
import type { Customer } from './records.ts';
import { type Switch, switchNames, switchWords } from './switches.ts';

const STYLE = `
  body { font: 15px/1.5 system-ui, sans-serif; background: #eef1ee; color: #1f2a26; margin: 0 }
  header { background: #1f4d43; color: #fff; padding: 14px 24px; font-weight: 600 }
  main { max-width: 460px; margin: 48px auto; background: #fff; border-radius: 8px; padding: 28px 32px }
  h1 { font-size: 20px; margin: 0 0 12px } label { display: block; margin: 12px 0 }
  input[type=text], input[type=password] { display: block; width: 100%; box-sizing: border-box;
    font: inherit; padding: 8px; border: 1px solid #9aa8a2; border-radius: 4px }
  button { font: inherit; padding: 8px 18px; border-radius: 4px; border: 1px solid #1f4d43;
    background: #1f4d43; color: #fff; margin-right: 8px; cursor: pointer }
  button.plain { background: #fff; color: #1f4d43 }
  .hint { color: #55635d } .wrong { color: #8f2d1f } small { color: #55635d }`;

function page(bankName: string, title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width"><title>${safe(title)} · ${safe(bankName)}</title>
<style>${STYLE}</style></head><body><header>${safe(bankName)} <small style="color:#cfe0da">practice bank</small></header>
<main><h1>${safe(title)}</h1>${body}</main></body></html>`;
}

/** Where a customer signs in to answer a request. */
export function signInPage(
  bankName: string,
  { id, app }: ConsentRequest,
  hint: Customer | null,
  wrong: string | null,
): string {
  const note = hint
    ? `<p class="hint">A practice customer: <b>${safe(hint.user)}</b> with the secret <b>${safe(hint.secret)}</b>.</p>`
    : '';
  return page(
    bankName,
    'Sign in',
    `<p>${safe(app)} asks to read your accounts. It can’t move money.</p>
    ${wrong === null ? '' : `<p class="wrong" role="alert">${safe(wrong)}</p>`}
    <form method="post" action="/consents/${safe(id)}/sign-in">
    <label>Customer<input type="text" name="user" required autofocus></label>
    <label>Secret<input type="password" name="secret" required></label>
    <button>Sign in</button></form>${note}`,
  );
}

/** Where a customer chooses the accounts and answers. */
export function choosePage(
  bankName: string,
  { id, app }: ConsentRequest,
  customer: Customer,
): string {
  const accounts = customer.accounts.map(
    (account) =>
      `<label><input type="checkbox" name="account" value="${safe(account.id)}" checked>
      ${safe(account.name)} <small>${safe(account.number)}</small></label>`,
  );
  return page(
    bankName,
    `${customer.name}: which accounts?`,
    `<p>${safe(app)} may read the lines and balances of the ticked accounts for 90 days.</p>
    <form method="post" action="/consents/${safe(id)}/answer">${accounts.join('')}
    <button name="answer" value="allow">Allow</button>
    <button class="plain" name="answer" value="refuse">Refuse</button></form>`,
  );
}

/** A page that only says something. */
export function wordsPage(bankName: string, title: string, words: string): string {
  return page(bankName, title, `<p>${safe(words)}</p>`);
}

/** Where trouble is switched on and off. */
export function switchesPage(bankName: string, on: ReadonlySet<Switch>): string {
  const boxes = switchNames.map(
    (name) =>
      `<label><input type="checkbox" name="on" value="${name}"${on.has(name) ? ' checked' : ''}>
      ${safe(switchWords[name])}</label>`,
  );
  return page(
    bankName,
    'Trouble to practise with',
    `<form method="post" action="/switches">${boxes.join('')}<button>Switch</button></form>`,
  );
}
