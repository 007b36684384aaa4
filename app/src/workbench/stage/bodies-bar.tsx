/** What can be done to the bodies that are chosen: hidden, shown alone, coloured, put into groups. */
import { Check, Eye, EyeOff, Focus, Folder, Layers, Palette } from 'lucide-react';
import type { ReactNode } from 'react';
import { stepName, stepOf } from '@nematos/core/design/edit';
import { kindNamed, yieldsOf } from '@nematos/core/design/registry';
import { MATERIAL_IDS, MATERIALS } from '@nematos/core/measure/materials';
import type { Design, Step } from '@nematos/core/design/schema';
import { inGroup, newGroup, setColour, setGroup, setHidden } from '@nematos/core/design/show';
import { useBench, useBenchStore, useDesign } from '../../bench/bench';
import { Menu, MenuLine } from '../../ui/controls';

/** Colours of the honey house. */
const COLOURS = [
  ['#e2b857', 'honey'],
  ['#7a4a2b', 'propolis'],
  ['#b3623f', 'clay'],
  ['#5d8a4e', 'clover'],
  ['#5f93b5', 'borage'],
  ['#8a7fb8', 'lavender'],
  ['#5c6670', 'slate'],
  ['#e9e4d8', 'chalk'],
] as const;

const CHIP =
  'flex h-6 items-center gap-1.5 rounded px-1.5 text-[12.5px] text-quiet hover:bg-hover hover:text-ink aria-pressed:text-thread';

/** Stands below the words of the views while bodies are chosen, or where some are not to be seen. */
export function BodiesBar() {
  const store = useBenchStore();
  const design = useDesign();
  const selection = useBench((bench) => bench.view.selection);
  const alone = useBench((bench) => bench.view.alone) ?? [];
  const bodies = design.steps.filter((step) => yieldsOf(step, design.steps) === 'body');
  const chosen = bodies.filter(({ id }) => selection?.some(({ step }) => step === id));
  const hidden = bodies.filter((step) => step.hidden);
  const ids = chosen.map(({ id }) => id);
  const isAlone = ids.length > 0 && ids.every((id) => alone.includes(id));
  const { edit, look } = store.getState();
  const called = chosen.length === 1 ? stepName(chosen[0]!) : `${chosen.length} bodies`;
  const change = (says: string, recipe: (draft: Design) => void) => edit(`${says} ${called}`, recipe);
  const isHidden = chosen.length > 0 && chosen.every((step) => step.hidden);
  if (!chosen.length && !hidden.length && !alone.length) return null;
  return (
    <div
      role="toolbar"
      aria-label="Chosen bodies"
      className="pointer-events-auto flex flex-wrap items-center gap-0.5 rounded-md border border-hair bg-raised/90 px-1 py-0.5"
    >
      {chosen.length > 0 && (
        <>
          <span className="max-w-36 truncate px-1.5 text-[12.5px] font-semibold">{called}</span>
          <Chip
            pressed={isHidden}
            onClick={() => change(isHidden ? 'Show' : 'Hide', (draft) => setHidden(draft, ids, !isHidden))}
          >
            {isHidden ? <Eye size={13} /> : <EyeOff size={13} />} {isHidden ? 'Show' : 'Hide'}
          </Chip>
          <Chip pressed={isAlone} onClick={() => look({ alone: isAlone ? undefined : ids })}>
            <Focus size={13} /> Alone
          </Chip>
          <Colours chosen={chosen} change={change} />
          <Materials chosen={chosen} change={change} />
          <Groups chosen={chosen} design={design} change={change} />
        </>
      )}
      {(alone.length > 0 || hidden.length > 0) && !isAlone && (
        <Chip
          onClick={() => {
            look({ alone: undefined });
            if (hidden.length)
              edit('Show all bodies', (draft) =>
                setHidden(
                  draft,
                  hidden.map(({ id }) => id),
                  false,
                ),
              );
          }}
        >
          Show all{hidden.length > 0 && ` (${hidden.length} hidden)`}
        </Chip>
      )}
    </div>
  );
}

function Chip({ pressed, onClick, children }: { pressed?: boolean; onClick(): void; children: ReactNode }) {
  return (
    <button type="button" aria-pressed={pressed} onClick={onClick} className={CHIP}>
      {children}
    </button>
  );
}

interface Chosen {
  readonly chosen: readonly Step[];
  change(says: string, recipe: (draft: Design) => void): void;
}

function Colours({ chosen, change }: Chosen) {
  const ids = chosen.map(({ id }) => id);
  const now = chosen[0]!.colour;
  const give = (colour: string | undefined) => change('Colour', (draft) => setColour(draft, ids, colour));
  return (
    <Menu
      trigger={
        <button type="button" className={CHIP}>
          {now ? <Swatch colour={now} /> : <Palette size={13} />} Colour
        </button>
      }
    >
      <MenuLine onSelect={() => give(undefined)} note={now ? undefined : <Check size={13} />}>
        as its material
      </MenuLine>
      {COLOURS.map(([colour, name]) => (
        <MenuLine
          key={colour}
          onSelect={() => give(colour)}
          note={now === colour ? <Check size={13} /> : undefined}
        >
          <Swatch colour={colour} /> {name}
        </MenuLine>
      ))}
    </Menu>
  );
}

/** Of bodies that are made of something themselves; others are of what they are made from. */
function Materials({ chosen, change }: Chosen) {
  const own = chosen.filter(({ kind }) => kindNamed(kind)?.schema.shape.material);
  if (own.length < chosen.length) return null;
  const ids = own.map(({ id }) => id);
  const [now, ...others] = new Set(own.map(({ set }) => set.material));
  return (
    <Menu
      trigger={
        <button type="button" className={CHIP}>
          <Layers size={13} /> Material
        </button>
      }
    >
      <div className="max-h-[min(60vh,26rem)] overflow-y-auto">
        {MATERIAL_IDS.map((id) => (
          <MenuLine
            key={id}
            onSelect={() =>
              change(`Make of ${MATERIALS[id].name}:`, (draft) => {
                for (const step of ids) stepOf(draft, step).set.material = id;
              })
            }
            note={now === id && !others.length ? <Check size={13} /> : undefined}
          >
            <Swatch colour={MATERIALS[id].look[0]} /> {MATERIALS[id].name}
          </MenuLine>
        ))}
      </div>
    </Menu>
  );
}

const Swatch = ({ colour }: { colour: string }) => (
  <span
    className="mr-0.5 inline-block size-3 rounded-full border border-hair align-[-2px]"
    style={{ background: colour }}
  />
);

function Groups({ chosen, design, change }: Chosen & { readonly design: Design }) {
  const { look } = useBenchStore().getState();
  const ids = chosen.map(({ id }) => id);
  const groups = design.groups ?? [];
  const mine = groups.find(({ id }) => chosen.every((step) => step.group === id));
  const members = mine ? inGroup(design, mine.id) : [];
  const allHidden = members.every((id) => design.steps.find((step) => step.id === id)?.hidden);
  return (
    <Menu
      trigger={
        <button type="button" className={CHIP}>
          <Folder size={13} /> {mine ? mine.name : 'Group'}
        </button>
      }
    >
      {mine && (
        <>
          <MenuLine
            onSelect={() => look({ selection: members.map((step) => ({ step })) })}
            note={`${members.length}`}
          >
            Choose all of {mine.name}
          </MenuLine>
          <MenuLine
            onSelect={() =>
              change(allHidden ? 'Show the group of' : 'Hide the group of', (draft) =>
                setHidden(draft, members, !allHidden),
              )
            }
          >
            {allHidden ? 'Show' : 'Hide'} {mine.name}
          </MenuLine>
          <MenuLine onSelect={() => look({ alone: members })}>{mine.name} alone</MenuLine>
          <MenuLine onSelect={() => change('Ungroup', (draft) => setGroup(draft, ids, undefined))}>
            Take out of {mine.name}
          </MenuLine>
        </>
      )}
      {groups
        .filter((group) => group !== mine)
        .map(({ id, name }) => (
          <MenuLine key={id} onSelect={() => change(`Into ${name}:`, (draft) => setGroup(draft, ids, id))}>
            Into {name}
          </MenuLine>
        ))}
      <MenuLine
        onSelect={() => change('Group', (draft) => void newGroup(draft, ids, `Group ${groups.length + 1}`))}
      >
        Into a new group
      </MenuLine>
    </Menu>
  );
}
