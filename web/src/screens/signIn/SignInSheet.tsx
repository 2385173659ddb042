import type { ReactNode } from 'react';
import './signIn.scss';

/** The sheet for whoever is not in yet. */
export function SignInSheet({ children }: { readonly children: ReactNode }) {
  return (
    <main className="sign-in">
      <div className="sheet">
        <h1>
          <span className="word">zubrell</span>
        </h1>
        {children}
      </div>
    </main>
  );
}
