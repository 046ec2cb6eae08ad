/** Whether a machine conches and does not grind, by what it is called: a conche, a heated mixer. */
export const isConche = ({ kind }: { kind: string }): boolean => /conche|mixer|rührer/i.test(kind);
