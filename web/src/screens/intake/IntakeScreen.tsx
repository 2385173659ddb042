import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { Batches } from './Batches.tsx';
import { FeedSection } from './feeds/FeedSection.tsx';
import { WatchedSection } from './feeds/WatchedSection.tsx';
import './intake.scss';
import { Preview } from './Preview.tsx';
import { TableHelp } from './TableHelp.tsx';

/** Files come in here: dropped, shown as they will come in, kept with one press. */
export function IntakeScreen() {
  const [source, setSource] = useState<File | null>(null);
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([file]) => setSource(file ?? null),
  });

  if (source !== null) {
    return <Preview source={source} onLeave={() => setSource(null)} />;
  }
  return (
    <main className="page">
      <div {...getRootProps({ className: 'intake' })}>
        <section className={`drop sheet ${isDragActive ? 'over' : ''}`}>
          <input {...getInputProps({ 'aria-label': t`Bank file` })} />
          <h1>{t`Drop a bank file here`}</h1>
          <p className="quiet">
            {t`OFX, camt, MT940, QIF, CSV or a spreadsheet. You see a preview first; nothing is imported until you confirm.`}
          </p>
          <Button variant="main" onClick={open}>
            {t`Choose a file`}
          </Button>
          <TableHelp />
        </section>
        <FeedSection />
        <WatchedSection />
        <Batches />
      </div>
    </main>
  );
}
