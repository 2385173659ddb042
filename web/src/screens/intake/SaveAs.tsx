import { t } from '@zubrell/core/words/t';
import type { Remote } from 'comlink';
import { Dropdown } from 'react-bootstrap';
import { toast } from '../../app/toast.ts';
import type { FileReading, WrittenFormat } from '../../workers/fileReading.ts';

const FORMATS: readonly (readonly [WrittenFormat, string, string])[] = [
  ['csv', 'CSV', 'csv'],
  ['xlsx', t`Spreadsheet (XLSX)`, 'xlsx'],
  ['ofx', 'OFX 2', 'ofx'],
  ['camt053', 'camt.053', 'xml'],
  ['json', 'JSON', 'json'],
];

/** Writes the file's lines in another format, to be saved. */
export function SaveAs({
  reading,
  fileName,
}: {
  readonly reading: Remote<FileReading>;
  readonly fileName: string;
}) {
  async function save(format: WrittenFormat, ending: string): Promise<void> {
    try {
      const url = URL.createObjectURL(await reading.write(format));
      const link = document.createElement('a');
      link.href = url;
      link.download = `${fileName.replace(/\.\w+$/, '')}.${ending}`;
      link.click();
      URL.revokeObjectURL(url);
    } catch {
      toast.error(t`The lines can’t be written in that format.`);
    }
  }

  return (
    <Dropdown className="mt-1">
      <Dropdown.Toggle variant="link" className="p-0">
        {t`Save as`}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {FORMATS.map(([format, name, ending]) => (
          <Dropdown.Item key={format} as="button" onClick={() => void save(format, ending)}>
            {name}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
