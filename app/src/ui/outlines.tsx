/** Outlines exported as a drawing. */
import { Download } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { cutDxf, cutSvg } from '@nematos/core/exchange/cut-drawing';
import { fileName } from '@nematos/core/exchange/file-name';
import { Menu, MenuLine, Sign } from './controls';
import { save } from './save';

const KINDS = [
  ['SVG', 'svg', 'image/svg+xml', cutSvg],
  ['DXF', 'dxf', 'image/vnd.dxf', cutDxf],
] as const;

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
  const send = async ([, ending, type, written]: (typeof KINDS)[number]) => {
    const found = await loops();
    setNone(!found.length);
    if (found.length) save(new Blob([written(found, name)], { type }), fileName(name, ending));
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
        {KINDS.map((kind) => (
          <MenuLine key={kind[1]} onSelect={() => void send(kind)} note="in mm">
            {kind[0]}
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
