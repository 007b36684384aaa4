/** Outlines exported as a drawing. */
import { Download } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { cutSheet } from '@nematos/core/exchange/cut-drawing';
import { fileName } from '@nematos/core/exchange/file-name';
import { writableFormats } from '@nematos/core/exchange/formats';
import { Menu, MenuLine, Sign } from './controls';
import { save } from './save';

type Writer = ReturnType<typeof writableFormats<'outline'>>[number];

/**
 * A sign that offers closed outlines as drawings, in mm; they are asked for once a kind is chosen. Where none are there by then,
 * it says so.
 */
export function SentOutlines({
  loops,
  name,
  says,
  disabled,
}: {
  loops(): readonly Float64Array[] | Promise<readonly Float64Array[]>;
  name: string;
  says: string;
  disabled?: boolean;
}): ReactElement {
  const [none, setNone] = useState(false);
  const send = async ({ endings: [ending], media: type, write }: Writer) => {
    const found = await loops();
    setNone(!found.length);
    if (found.length) save(new Blob([await write(cutSheet(found, name))], { type }), fileName(name, ending));
  };
  return (
    <>
      <Menu
        align="end"
        trigger={
          <Sign name={says} disabled={disabled} className="size-6">
            <Download size={13} />
          </Sign>
        }
      >
        {writableFormats('outline').map((format) => (
          <MenuLine key={format.id} onSelect={() => void send(format)} note="in mm">
            {format.name}
          </MenuLine>
        ))}
      </Menu>
      {none && (
        <span role="alert" className="text-madder">
          There is no outline to export.
        </span>
      )}
    </>
  );
}
