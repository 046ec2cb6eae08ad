/** A guest, what they must not touch, and what is in what they make. */
export interface SeatedGuest {
  id: string;
  allergies: readonly string[];
  /** Allergens of everything in their bars. */
  inBar: readonly string[];
}

/** An allergen somebody must not touch, and where it is. */
export interface AllergyFinding {
  guestId: string;
  allergen: string;
  /** In their own bars, in those of others at the same table, or in the workshop's traces. */
  where: 'own' | 'table' | 'workshop';
  /** Whose bars hold it; empty for traces. */
  others: string[];
}

/**
 * Where what a guest must not touch turns up in a class: in their own bars, in what others stir at the same table, and among the traces the
 * workshop states on its labels. Only what was entered is known; it says nothing about what was not.
 *
 * @throws RangeError where two guests share an id
 */
export function allergyFindings(
  guests: readonly SeatedGuest[],
  traces: readonly string[] = [],
): AllergyFinding[] {
  if (new Set(guests.map((g) => g.id)).size !== guests.length)
    throw new RangeError('each guest needs an id of their own');
  return guests.flatMap(({ id, allergies, inBar }) =>
    [...new Set(allergies)].flatMap((allergen): AllergyFinding[] => {
      if (inBar.includes(allergen)) return [{ guestId: id, allergen, where: 'own', others: [] }];
      const others = guests.filter((g) => g.id !== id && g.inBar.includes(allergen)).map((g) => g.id);
      if (others.length > 0) return [{ guestId: id, allergen, where: 'table', others }];
      return traces.includes(allergen) ? [{ guestId: id, allergen, where: 'workshop', others: [] }] : [];
    }),
  );
}
