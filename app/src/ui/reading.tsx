/** Tells which file is being read. */
export function ReadingLine({ name, onCancel }: { name: string; onCancel(): void }) {
  return (
    <p role="status" className="text-quiet">
      Reading {name} …{' '}
      <button type="button" className="rounded text-thread hover:underline" onClick={onCancel}>
        Cancel
      </button>
    </p>
  );
}
