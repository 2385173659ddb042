import {
  browserSupportsWebAuthn,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  startAuthentication,
  startRegistration,
} from '@simplewebauthn/browser';
import type { AddPasskey, PasskeyOptions, SignInByPasskey } from '@zubrell/contract/session';

/** What keeps passkeys from being used here: the browser, or a page that is open under an address. */
export type PasskeyTrouble = 'browser' | 'address';

/** Whether passkeys can be used on this page; null where nothing is in their way. */
export function passkeyTrouble(): PasskeyTrouble | null {
  if (/^[\d.]+$|^\[/.test(window.location.hostname)) return 'address';
  return browserSupportsWebAuthn() ? null : 'browser';
}

/** Has the device make a passkey. @throws {Error} where its user does not want to, or it has one already */
export async function makePasskey(options: PasskeyOptions): Promise<AddPasskey['made']> {
  const optionsJSON = options as unknown as PublicKeyCredentialCreationOptionsJSON;
  const { id, rawId, response } = await startRegistration({ optionsJSON });
  const { clientDataJSON, attestationObject, transports } = response;
  const made = { clientDataJSON, attestationObject, ...(transports ? { transports } : {}) };
  return { id, rawId, type: 'public-key', clientExtensionResults: {}, response: made };
}

/** Has the device sign with a passkey. @throws {Error} where its user does not want to, or there is none */
export async function signWithPasskey(options: PasskeyOptions): Promise<SignInByPasskey> {
  const optionsJSON = options as unknown as PublicKeyCredentialRequestOptionsJSON;
  const { id, rawId, response } = await startAuthentication({ optionsJSON });
  const { clientDataJSON, authenticatorData, signature, userHandle } = response;
  const signed = { clientDataJSON, authenticatorData, signature };
  return {
    id,
    rawId,
    type: 'public-key',
    clientExtensionResults: {},
    response: userHandle === undefined ? signed : { ...signed, userHandle },
  };
}
