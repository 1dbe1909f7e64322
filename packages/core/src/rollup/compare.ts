import type { RollUp } from './rollUp.js';

/** What a substitution changes on the label and the bill, in words; empty when nothing. Source: handbook 2.5. */
export function compareRollUps(before: RollUp, after: RollUp): string[] {
  const said: string[] = [];
  const words = (of: RollUp, certain: boolean): Set<string> =>
    new Set(of.allergens.filter((line) => line.certain === certain).map((line) => line.words));
  const [had, has, might, may] = [words(before, true), words(after, true), words(before, false), words(after, false)];
  for (const one of has) if (!had.has(one)) said.push(`adds the allergen ${one}`);
  for (const one of had)
    if (!has.has(one))
      said.push(
        may.has(one) ? `no longer contains ${one} for certain, still may contain it` : `takes away the allergen ${one}`,
      );
  for (const one of may) if (!might.has(one) && !had.has(one)) said.push(`now may contain ${one}`);
  for (const one of might) if (!may.has(one) && !has.has(one)) said.push(`no longer may contain ${one}`);
  const names = (of: RollUp): string => of.statement.map(({ name }) => name).join(', ');
  if (names(before) !== names(after)) said.push(`ingredients become: ${names(after)}`);
  if (Math.abs(after.saltPer100 - before.saltPer100) >= 0.005)
    said.push(`salt per 100 g from ${before.saltPer100.toFixed(2)} to ${after.saltPer100.toFixed(2)} g`);
  if (
    before.costPerJar !== null &&
    after.costPerJar !== null &&
    Math.abs(after.costPerJar - before.costPerJar) >= 0.005
  )
    said.push(`cost of a jar from ${before.costPerJar.toFixed(2)} to ${after.costPerJar.toFixed(2)}`);
  for (const mark of after.diet) if (!before.diet.includes(mark)) said.push(`now marked ${mark}`);
  for (const mark of before.diet) if (!after.diet.includes(mark)) said.push(`no longer marked ${mark}`);
  return said;
}
