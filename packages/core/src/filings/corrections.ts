import type { Copy, Corrected, Correction } from './filing';

/** A statement with whom it names, as screens have them. */
export type StatedCopy = Pick<Copy, 'personId' | 'boxes' | 'marks'> & { name?: string; number?: string | null };

/** People whose statement is not as it was filed; who is on one side only counts as nothing on the other. */
export function correctionsOf(filed: readonly StatedCopy[], now: readonly StatedCopy[]): Correction[] {
  const [old, fresh] = [filed, now].map((copies) => new Map(copies.map((copy) => [copy.personId, copy]))) as [
    Map<string, StatedCopy>,
    Map<string, StatedCopy>,
  ];
  return [...new Set([...fresh.keys(), ...old.keys()])].flatMap((personId) => {
    const [before, after] = [old.get(personId), fresh.get(personId)];
    const boxes = compared(before?.boxes ?? [], after?.boxes ?? [], ({ amount }) => amount, 0);
    const marks = compared(before?.marks ?? [], after?.marks ?? [], ({ text }) => text, '');
    const named = !!before && !!after && (before.name !== after.name || before.number !== after.number);
    return boxes.length || marks.length || named ? [{ personId, boxes, marks, named }] : [];
  });
}

function compared<Entry extends { box: string; label: string }, Value>(
  before: readonly Entry[],
  now: readonly Entry[],
  valueOf: (entry: Entry) => Value,
  nothing: Value,
): Corrected<Value>[] {
  const names = [...new Set([...now, ...before].map(({ box }) => box))];
  return names.flatMap((box) => {
    const [old, fresh] = [before.find((one) => one.box === box), now.find((one) => one.box === box)];
    const [from, to] = [old ? valueOf(old) : nothing, fresh ? valueOf(fresh) : nothing];
    return from === to ? [] : [{ box, label: (fresh ?? old)?.label ?? box, before: from, now: to }];
  });
}
