import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { sessionApi } from '../../api/session.ts';
import { UserMenu } from '../../app/UserMenu.tsx';
import { ErasePanel } from './ErasePanel.tsx';
import { FormatsPanel } from './FormatsPanel.tsx';
import { PasskeysPanel } from './PasskeysPanel.tsx';
import { PasswordPanel } from './PasswordPanel.tsx';
import { SecondFactorPanel } from './SecondFactorPanel.tsx';
import { SessionsPanel } from './SessionsPanel.tsx';
import '../settings/settings.scss';
import './account.scss';

/** What is one's own: the password, and where one is signed in. */
export function AccountScreen() {
  const { data: session } = sessionApi.useSessionQuery();
  return (
    <div className="frame">
      <header className="top-bar">
        <Link to="/" className="word">
          zubrell
        </Link>
        <div className="right">
          <UserMenu />
        </div>
      </header>
      <main className="page settings account">
        <h1>{t`Your account`}</h1>
        <p className="quiet m-0">
          {session?.user?.name}, {session?.user?.email}
        </p>
        <FormatsPanel />
        <PasswordPanel />
        <SecondFactorPanel />
        <PasskeysPanel />
        <SessionsPanel />
        <ErasePanel />
      </main>
    </div>
  );
}
