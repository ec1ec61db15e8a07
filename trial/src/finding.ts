/** What a trial found, and what is promised of it. */
export interface Finding {
  what: string;
  found: string;
  promised: string;
  holds: boolean;
}

/** Prints findings; gives back whether all of them hold. */
export function print(findings: readonly Finding[]): boolean {
  for (const { what, found, promised, holds } of findings)
    console.log(`${holds ? 'holds ' : 'BROKEN'}  ${what}: ${found} (promised: ${promised})`);
  return findings.every(({ holds }) => holds);
}
