import type { ChangeRules } from '@zubrell/contract/rules';
import type { BankAccountId, RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Dropdown, Modal } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { tx } from '../../ui/tx.tsx';
import { BankAccountsPicker } from './BankAccountsPicker.tsx';
import { useRuleFile } from './useRuleFile.ts';

/** What can be done with the rules that are ticked. */
export function BulkBar({
  ruleIds,
  onDone,
  onCopyElsewhere,
}: {
  readonly ruleIds: readonly RuleId[];
  readonly onDone: () => void;
  readonly onCopyElsewhere: (text: string) => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [changeRules, { isLoading }] = rulesApi.useChangeRulesMutation();
  const [isCopying, setIsCopying] = useState(false);
  const file = useRuleFile();
  const send = async (change: Omit<ChangeRules, 'ruleIds'>): Promise<void> => {
    if (told(await changeRules({ booksId, ruleIds: [...ruleIds], ...change }))) onDone();
  };
  return (
    <div className="bulk-bar" role="toolbar" aria-label={t`Ticked rules`}>
      <span>{counted(ruleIds.length, 'rule', 'rules')}</span>
      {(['on', 'off'] as const).map((to) => (
        <Button key={to} variant="plain" disabled={isLoading} onClick={() => void send({ to })}>
          {to === 'on' ? t`On` : t`Off`}
        </Button>
      ))}
      <Dropdown>
        <Dropdown.Toggle variant="plain">{t`Copy`}</Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as="button" onClick={() => void send({ to: 'copied' })}>
            {t`here`}
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => setIsCopying(true)}>
            {t`to other bank accounts …`}
          </Dropdown.Item>
          <Dropdown.Item
            as="button"
            onClick={async () => {
              const text = await file.text(ruleIds);
              if (text !== null) onCopyElsewhere(text);
            }}
          >
            {t`to other books …`}
          </Dropdown.Item>
          <Dropdown.Item as="button" onClick={() => void file.save(ruleIds)}>
            {t`to a file`}
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      <Button variant="plain" disabled={isLoading} onClick={() => void send({ to: 'deleted' })}>
        {t`Delete`}
      </Button>
      <Button variant="link" className="ms-auto" onClick={onDone}>
        {t`Untick`}
      </Button>
      {isCopying && (
        <CopyDialog
          onClose={() => setIsCopying(false)}
          onCopy={async (bankAccountIds) => {
            setIsCopying(false);
            await send({ to: 'copied', bankAccountIds });
          }}
        />
      )}
    </div>
  );
}

function CopyDialog({
  onClose,
  onCopy,
}: {
  readonly onClose: () => void;
  readonly onCopy: (bankAccountIds: BankAccountId[]) => Promise<void>;
}) {
  const [ids, setIds] = useState<readonly string[] | null>(null);
  return (
    <Dialog title={t`Copy to other bank accounts`} onClose={onClose}>
      <Modal.Body>
        <p>{t`The copies are added switched off, at the end of the order.`}</p>
        <div className="sentence">
          {tx`They apply to ${<BankAccountsPicker ids={ids} onChange={setIds} />}`}
        </div>
      </Modal.Body>
      <DialogFoot isOff={ids === null} onLeave={onClose} onConfirm={() => onCopy([...(ids ?? [])])}>
        {t`Copy`}
      </DialogFoot>
    </Dialog>
  );
}
