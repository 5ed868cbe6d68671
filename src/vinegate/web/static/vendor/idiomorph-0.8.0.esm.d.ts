// What is used of it, for the type check.
export const Idiomorph: {
  morph(
    old: Element,
    fresh: string,
    how: { morphStyle?: "innerHTML" | "outerHTML"; ignoreActiveValue?: boolean; restoreFocus?: boolean },
  ): Node[];
};
