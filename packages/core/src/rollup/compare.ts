import type { RollUp } from './rollUp.js';

/** What a substitution changes on the label and the bill, in words; empty when nothing. Source: handbook 2.5. */
export function compareRollUps(before: RollUp, after: RollUp): string[] {
  const said: string[] = [];
  const had = new Set(before.allergens.filter(({ certain }) => certain).map(({ words }) => words));
  const has = new Set(after.allergens.filter(({ certain }) => certain).map(({ words }) => words));
  for (const words of has) if (!had.has(words)) said.push(`adds the allergen ${words}`);
  for (const words of had) if (!has.has(words)) said.push(`takes away the allergen ${words}`);
  const names = (of: RollUp): string => of.statement.map(({ name }) => name).join(', ');
  if (names(before) !== names(after)) said.push(`ingredients become: ${names(after)}`);
  if (Math.abs(after.saltPer100 - before.saltPer100) >= 0.005) said.push(`salt per 100 g from ${before.saltPer100.toFixed(2)} to ${after.saltPer100.toFixed(2)} g`);
  if (before.costPerJar !== null && after.costPerJar !== null && Math.abs(after.costPerJar - before.costPerJar) >= 0.005) said.push(`cost of a jar from ${before.costPerJar.toFixed(2)} to ${after.costPerJar.toFixed(2)}`);
  for (const mark of after.diet) if (!before.diet.includes(mark)) said.push(`now marked ${mark}`);
  for (const mark of before.diet) if (!after.diet.includes(mark)) said.push(`no longer marked ${mark}`);
  return said;
}
