/** One design on the shelf, as a card or as a line of a list. */
import { Ellipsis } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { counted } from '@nematos/core/measure/words';
import { useDuplicate, useRemove, useRename, useSetTags } from '../data/queries';
import type { Kept } from '../data/store';
import { Menu, MenuLine, Sign } from '../ui/controls';
import { useTheme } from '../ui/theme';
import { readTags } from './arranged';
import { usePicture } from './pictures';

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  hour: '2-digit',
  minute: '2-digit',
});

/** What of a design is being typed. */
type Typing = 'name' | 'tags' | undefined;

interface CardProps {
  readonly kept: Kept;
  /** In a list rather than a grid. */
  readonly list: boolean;
  onRemoved(): void;
}

/** A design with its picture, its name, and what can be done with it. */
export function Card({ kept, list, onRemoved }: CardProps) {
  const theme = useTheme();
  const place = useRef<HTMLLIElement>(null);
  const picture = usePicture(kept, theme, place);
  const [typing, setTyping] = useState<Typing>();
  const design = kept.history.present;
  const name = design.name || 'Untitled';
  const done = () => setTyping(undefined);
  return (
    <li
      ref={place}
      className={`group relative ${list ? 'flex items-center gap-4 py-1.5' : ''}`}
      data-design={name}
    >
      <Link
        to={`/d/${kept.id}`}
        aria-label={`Open ${name}`}
        className={`stage-ground block aspect-[7/5] overflow-hidden rounded-md border border-hair transition-colors hover:border-brass-line ${list ? 'w-24 shrink-0' : ''}`}
      >
        {picture ? (
          <img src={picture} alt="" className="size-full object-contain" />
        ) : (
          <span className="grid size-full place-items-center text-center text-quiet">
            {design.steps.length ? '' : 'nothing made yet'}
          </span>
        )}
      </Link>
      <div className={list ? 'min-w-0 grow' : ''}>
        <div className={`flex items-baseline gap-2 ${list ? '' : 'mt-2'}`}>
          {typing === 'name' ? (
            <NameField kept={kept} onDone={done} />
          ) : (
            <Link to={`/d/${kept.id}`} tabIndex={-1} className="truncate font-serif text-[17px]">
              {name}
            </Link>
          )}
          <span className="ml-auto">
            <CardMenu kept={kept} onType={setTyping} onRemoved={onRemoved} />
          </span>
        </div>
        <p className="truncate text-quiet" title={design.note}>
          {design.note || counted(design.steps.length, 'step')}
        </p>
        <p className="truncate text-xs text-quiet">
          changed {DAY.format(kept.changed)}
          {typing !== 'tags' && design.tags?.map((tag) => ` · ${tag}`)}
        </p>
        {typing === 'tags' && <TagsField kept={kept} onDone={done} />}
      </div>
    </li>
  );
}

function CardMenu({
  kept,
  onType,
  onRemoved,
}: {
  kept: Kept;
  onType(what: Typing): void;
  onRemoved(): void;
}) {
  const duplicate = useDuplicate();
  const remove = useRemove();
  const design = kept.history.present;
  // After the menu has handed the focus back.
  const type = (what: Typing) => setTimeout(() => onType(what), 60);
  return (
    <Menu
      align="end"
      trigger={
        <Sign name={`More about ${design.name || 'Untitled'}`} className="!size-6">
          <Ellipsis size={15} />
        </Sign>
      }
    >
      <MenuLine onSelect={() => type('name')}>Rename</MenuLine>
      <MenuLine onSelect={() => type('tags')}>Change tags</MenuLine>
      <MenuLine onSelect={() => duplicate.mutate(design)}>Duplicate</MenuLine>
      <MenuLine
        onSelect={() => {
          remove.mutate(kept.id);
          onRemoved();
        }}
      >
        Take off the shelf
      </MenuLine>
    </Menu>
  );
}

interface FieldProps {
  readonly kept: Kept;
  onDone(): void;
}

function NameField({ kept, onDone }: FieldProps) {
  const rename = useRename();
  const { name } = kept.history.present;
  return (
    <CardField
      name="Name of the design"
      text={name || 'Untitled'}
      className="font-serif text-[17px]"
      onDone={onDone}
      onText={(text) => {
        const next = text.trim();
        if (next && next !== name) rename.mutate({ id: kept.id, name: next });
      }}
    />
  );
}

function TagsField({ kept, onDone }: FieldProps) {
  const setTags = useSetTags();
  const now = kept.history.present.tags ?? [];
  return (
    <CardField
      name="Tags of the design"
      text={now.join(', ')}
      placeholder="tags, parted by commas"
      className="mt-0.5 w-full text-[13px]"
      onDone={onDone}
      onText={(text) => {
        const tags = readTags(text);
        if (tags.join() !== now.join()) setTags.mutate({ id: kept.id, tags });
      }}
    />
  );
}

/** A text of a design while it is typed: Enter takes it, Escape leaves it. */
function CardField({
  name,
  text,
  placeholder,
  className,
  onText,
  onDone,
}: {
  name: string;
  text: string;
  placeholder?: string;
  className: string;
  onText(text: string): void;
  onDone(): void;
}) {
  const [now, setNow] = useState(text);
  const finish = () => {
    onText(now);
    onDone();
  };
  return (
    <input
      autoFocus
      aria-label={name}
      maxLength={120}
      value={now}
      placeholder={placeholder}
      className={`editable grow ${className}`}
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setNow(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish();
        if (event.key === 'Escape') onDone();
      }}
    />
  );
}
