import { t } from '@zubrell/core/words/t';
import { sessionApi } from '../api/session.ts';
import { LateMenu } from '../ui/LateMenu.tsx';

const load = async () => (await import('./UserMenuOpened.tsx')).UserMenuOpened;

/** Who is signed in, the theme, and signing out. */
export function UserMenu() {
  const { data: session } = sessionApi.useSessionQuery();
  const name = session?.user?.name ?? '';
  const initials = name
    .split(' ')
    .map((word) => word[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase();
  const content = (
    <>
      <span aria-hidden>{initials}</span>
      <span className="visually-hidden">{t`${name}: theme, sign out`}</span>
    </>
  );
  return <LateMenu button={{ className: 'avatar', content }} load={load} props={{}} />;
}
