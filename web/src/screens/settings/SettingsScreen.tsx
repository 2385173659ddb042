import { t } from '@zubrell/core/words/t';
import { AddressPanel } from './AddressPanel.tsx';
import { BackgroundPanel } from './BackgroundPanel.tsx';
import { ClosingPanel } from './ClosingPanel.tsx';
import { DemandsPanel } from './DemandsPanel.tsx';
import { OtherBooksPanel } from './OtherBooksPanel.tsx';
import { PeoplePanel } from './PeoplePanel.tsx';
import { PreferencesPanel } from './PreferencesPanel.tsx';
import './settings.scss';

/** How these books are worked with, by whom, and what this user sees of them. */
export function SettingsScreen() {
  return (
    <main className="page settings">
      <h1>{t`Settings`}</h1>
      <PeoplePanel />
      <DemandsPanel />
      <AddressPanel />
      <ClosingPanel />
      <OtherBooksPanel />
      <PreferencesPanel />
      <BackgroundPanel />
    </main>
  );
}
