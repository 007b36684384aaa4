/** The few controls that every screen shares. */
import { DropdownMenu } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';

const BUTTON =
  'inline-flex h-7 items-center gap-1.5 rounded-md border px-3 text-[13px] leading-none transition-colors disabled:opacity-45';

/** A button in the dress of the application. */
export function Button({
  strong,
  className = '',
  ...props
}: ComponentProps<'button'> & { strong?: boolean }) {
  const tone = strong
    ? 'border-ink bg-ink font-medium text-page hover:opacity-90'
    : 'border-hair bg-raised hover:enabled:bg-hover';
  return <button type="button" {...props} className={`${BUTTON} ${tone} ${className}`} />;
}

/** A button that is only a sign; its name is read out and shown on hovering. */
export function Sign({ name, className = '', ...props }: ComponentProps<'button'> & { name: string }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      {...props}
      className={`inline-grid size-7 place-items-center rounded-md text-quiet hover:enabled:bg-hover hover:enabled:text-ink disabled:opacity-40 ${className}`}
    />
  );
}

export const PAPER = 'rounded-md border border-hair bg-raised p-1 shadow-[0_6px_24px_-6px_rgb(0_0_0/0.28)]';
/** A menu is no taller than the window leaves it room. */
const MENU = `${PAPER} z-40 max-h-[min(30rem,var(--radix-dropdown-menu-content-available-height))] overflow-y-auto`;
const LINE =
  'flex cursor-pointer items-baseline gap-3 rounded px-2.5 py-1.5 text-[13px] outline-none data-[highlighted]:bg-hover data-[disabled]:cursor-default data-[disabled]:text-quiet';

/** A menu that closes hands the focus back to its button, unless another control has it by then. */
const handBack = (event: Event) => {
  if (document.activeElement !== document.body) event.preventDefault();
};

/** A menu that opens under its trigger. */
export function Menu({
  trigger,
  children,
  align = 'start',
}: {
  trigger: ReactNode;
  children: ReactNode;
  align?: 'start' | 'end';
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={5}
          onCloseAutoFocus={handBack}
          collisionPadding={6}
          className={`${MENU} min-w-44`}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** One line of a menu. */
export function MenuLine({
  onSelect,
  children,
  note,
  disabled,
}: {
  onSelect(): void;
  children: ReactNode;
  note?: ReactNode;
  disabled?: boolean;
}) {
  return (
    <DropdownMenu.Item className={LINE} onSelect={onSelect} disabled={disabled ?? false}>
      <span>{children}</span>
      {note && <span className="ml-auto max-w-64 text-xs text-quiet">{note}</span>}
    </DropdownMenu.Item>
  );
}

/**
 * What is chosen or written in a sentence: what follows it, a comma say, stays on its line. Between a field and the joiner
 * (U+2060, which is no text) browsers part lines unless that is forbidden; within it they may.
 */
export const Joined = ({ children }: { children: ReactNode }) => (
  <span className="whitespace-nowrap after:content-['\2060'] *:whitespace-normal">{children}</span>
);

/** One of a few words, in a sentence or beside it. */
export function Choice<T extends string>({
  value,
  options,
  name,
  onChoose,
  onOpen,
  refused,
  pictures,
  invalid,
  last,
}: {
  value: T;
  options: readonly (readonly [T, string])[];
  name: string;
  onChoose(value: T): void;
  /** Told when the list opens, and when it closes. */
  onOpen?: (open: boolean) => void;
  /** Why some cannot be chosen. */
  refused?: ReadonlyMap<T, string>;
  /** Addresses of small pictures, which may come later than the list: each line has room for one. */
  pictures?: ReadonlyMap<T, string>;
  invalid?: boolean;
  /** What else can be done, below the list. */
  last?: { readonly says: string; onSelect(): void };
}) {
  const shown = options.find(([option]) => option === value)?.[1] ?? value ?? 'choose';
  return (
    <Joined>
      <DropdownMenu.Root modal={false} onOpenChange={onOpen}>
        <DropdownMenu.Trigger asChild>
          <button
            type="button"
            aria-label={`${name}: ${shown}`}
            aria-invalid={invalid}
            data-field
            className="editable"
          >
            {shown}
          </button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={5}
            onCloseAutoFocus={handBack}
            collisionPadding={6}
            className={MENU}
          >
            <DropdownMenu.RadioGroup value={value} onValueChange={(next) => onChoose(next as T)}>
              {options.map(([option, label]) => (
                <DropdownMenu.RadioItem
                  key={option}
                  value={option}
                  disabled={refused?.has(option) ?? false}
                  className={`${LINE} data-[disabled]:cursor-default data-[state=checked]:font-semibold data-[state=checked]:text-thread`}
                >
                  {pictures && !refused?.has(option) && (
                    <span className="h-10 w-14 shrink-0 self-center">
                      {pictures.has(option) && (
                        <img src={pictures.get(option)} alt="" className="size-full object-cover" />
                      )}
                    </span>
                  )}
                  <span className="self-center">
                    {label}
                    {refused?.has(option) && (
                      <span className="block max-w-64 text-xs leading-snug">{refused.get(option)}</span>
                    )}
                  </span>
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
            {last && (
              <DropdownMenu.Item className={`${LINE} border-t border-hair`} onSelect={last.onSelect}>
                {last.says}
              </DropdownMenu.Item>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </Joined>
  );
}

/** Something that is so or not. */
export function Tick({ on, onChange, says }: { on: boolean; onChange(on: boolean): void; says: string }) {
  return (
    <label className="inline-flex items-center gap-1.5">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
        className="accent-thread"
      />
      {says}
    </label>
  );
}

/** The sign of the application. */
export function Logo() {
  return (
    <svg viewBox="0 0 24 24" className="size-5" fill="none" strokeLinecap="round" aria-hidden>
      <path d="M3 18c0-8 5-8 6-2s6 6 7-2" stroke="var(--thread)" strokeWidth="2.2" />
      <path d="M15.6 15.5 20.5 3.5" stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}
