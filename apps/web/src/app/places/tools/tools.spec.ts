import type { Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../../state/testing';
import { BrineVesselTool, HydrometerTool, StrengthTool, TopUpTool } from './brine-tools';
import { JarTool } from './count-tools';
import { JoinsTool } from './joins-tool';
import { HeavyTool, SpoonTool, TemperatureTool } from './kitchen-tools';
import { SaltTool } from './salt-tool';

const open = async (tool: Type<unknown>) => {
  inHouse(new FakeApi({ '/api/making': { batches: [{ batchId: 'b1', code: 'NY26-327-A', stage: 'forSalt' }] } }));
  const fixture = TestBed.createComponent(tool);
  await fixture.whenStable();
  const page = within(fixture);
  return {
    ...page,
    fill: async (fields: Record<string, string>) => {
      for (const [label, text] of Object.entries(fields)) await page.type(label, text);
    },
  };
};

describe('quick tools', () => {
  it('W1: one salt mass on all bases; a fraction on each', async () => {
    const page = await open(SaltTool);
    await page.fill({ 'Trimmed produce': '6500', Water: '4200', 'Salt that is in': '310' });
    expect(page.text()).toContain(
      '4.77 % of the vegetable, 7.38 % of the water, 6.87 % of the brine, 2.90 % of everything, 2.82 % of the total mass',
    );
    expect(page.text()).toContain('water phase 2.96 %');
    await page.fill({ 'Salt that is in': '', 'Salt wanted': '2.2' });
    expect(page.text()).toContain('143.0 g');
    expect(page.text()).toContain('1.39 % Weak');
    await page.press('of the brine');
    await page.type('Salt wanted', '5');
    expect(page.text()).toContain('221.1 g');
  });
  it('a vegetable nobody weighed is a figure that is missing, not 0 g', async () => {
    const page = await open(SaltTool);
    await page.press('of everything');
    await page.fill({ Water: '5000', 'Salt wanted': '2.6' });
    expect(page.text()).toContain('type what the produce weighs');
    expect(page.text()).not.toContain('Salt 130.0 g');
    await page.fill({ 'Salt wanted': '', 'Salt that is in': '310' });
    expect(page.text()).toContain('6.20 % of the water');
    expect(page.text()).not.toContain('of everything,');
    expect(page.text()).not.toContain('of the total mass');
    await page.fill({ 'Trimmed produce': '0', 'Salt wanted': '2.6' });
    expect(page.text()).toContain('Salt 130.0 g');
  });
  it('what stands in a vessel is said before it is topped up: brine alone is 0 g of produce', async () => {
    const topUp = await open(TopUpTool);
    await topUp.fill({ 'Water added': '5000', 'Salt in all': '130', 'Liquid lost': '500' });
    expect(topUp.text()).toContain('Type what the produce in it weighs');
    expect(topUp.text()).not.toContain('Put back');
    await topUp.type('Produce in the vessel', '0');
    expect(topUp.text()).toContain('Put back');
  });
  it('a brine beyond saturation is refused with what was typed', async () => {
    const page = await open(SaltTool);
    await page.press('of the brine');
    await page.fill({ 'Trimmed produce': '6500', Water: '4200', 'Salt wanted': '30' });
    expect(page.text()).toContain('up to 0.26 (26 %) is accepted');
  });
  it('W9 and W19: overshot, with the ways back; a scale too coarse', async () => {
    const page = await open(SaltTool);
    await page.fill({ 'Trimmed produce': '14600', 'Salt wanted': '2.2', 'Salt that is in': '342' });
    expect(page.text()).toContain('321.2 g');
    expect(page.text()).toContain('6.5 % over');
    expect(page.text()).toContain('945 g more trimmed produce');
    await page.fill({ 'Trimmed produce': '5363.6', 'Salt that is in': '', 'Scale, steps of': '5' });
    expect(page.text()).toContain('4.2 % of this dose');
  });
  it('a dose over bowls, or in stages, adds up', async () => {
    const page = await open(SaltTool);
    await page.fill({ 'Trimmed produce': '5000', 'Salt wanted': '2', 'Bowls, or stages': '3' });
    expect(page.text()).toContain('34 g + 33 g + 33 g');
    await page.type('Bowls, or stages', '1:2');
    expect(page.text()).toContain('33 g + 67 g');
    await page.type('Bowls, or stages', '2.5 1.5 1 kg');
    expect(page.text()).toContain('50 g + 30 g + 20 g');
    await page.type('Bowls, or stages', 'some');
    expect(page.text()).toContain('such as 1:2');
  });
  it('sends a result to a batch that waits, and into a formula', async () => {
    const page = await open(SaltTool);
    await page.fill({ 'Trimmed produce': '5000', 'Salt wanted': '2' });
    expect(page.text()).toContain('100 g salt to NY26-327-A');
    expect(page.element.querySelector('a[href*="/formulas/new?salt=2%20%25"]')).not.toBeNull();
  });
  it('W3: brine for a drum', async () => {
    const page = await open(BrineVesselTool);
    await page.fill({ Brim: '15', 'Produce in it': '7200', Density: '0.96', 'Salt, % of the water': '5' });
    expect(page.text()).toContain('12,850 mL');
    expect(page.text()).toContain('263.0 g salt in 5,260 g water');
    expect(page.text()).toContain('284.0 g salt in 5,681 g');
    await page.type('Produce in it', '11000');
    expect(page.text()).toContain('will not go in');
  });
  it('thins, strengthens, and says a strength on every scale', async () => {
    const page = await open(StrengthTool);
    await page.fill({ 'Brine there is': '1000', 'Its strength': '5' });
    expect(page.text()).toContain('4.76 %');
    await page.type('Strength wanted', '4');
    expect(page.text()).toContain('Thin it with 238 g water');
    await page.type('Strength wanted', '6');
    expect(page.text()).toContain('Strengthen it with');
    await page.type('Its strength', '40');
    expect(page.text()).toContain('no brine is stronger');
  });
  it('W6: a culture’s water; W7: a carrot that joins', async () => {
    const page = await open(JoinsTool);
    await page.fill({ 'Produce that is salted': '12 kg', 'Salt on it': '264', 'What joins': '300' });
    expect(page.text()).toContain('2.34 % → 2.28 %');
    expect(page.text()).toContain('7.2 g');
    await page.fill({
      'Produce that is salted': '8400',
      'Salt on it': '168',
      'What joins': '900',
      'Water in what joins': '88',
    });
    expect(page.text()).toContain('2.13 % → 1.93 %');
    expect(page.text()).toContain('a second dose is 18.0 g');
  });
  it('W8: topped up after overflow; evaporation leaves the salt', async () => {
    const page = await open(TopUpTool);
    await page.fill({ 'Produce in the vessel': '26 kg', 'Salt in all': '572', 'Liquid lost': '900' });
    expect(page.text()).toContain('21.0 g salt in 879 g water');
    expect(page.text()).toContain('thin it to 2.25 %');
    await page.press('it evaporated');
    expect(page.text()).toContain('900 g of plain water');
  });
  it('W23: a hydrometer away from its temperature', async () => {
    const page = await open(HydrometerTool);
    await page.fill({ 'It reads': '5', 'Brine is at': '5' });
    expect(page.text()).toContain('4.59 %');
    await page.type('Brine is at', '30');
    expect(page.text()).toContain('5.43 %');
  });
  it('W2: tablespoons to quarts', async () => {
    const page = await open(SpoonTool);
    await page.fill({ 'Tablespoons of salt': '7', 'to so much water': '3' });
    expect(page.text()).toContain('2.3 to 4.8 %');
    await page.press('US');
    await page.select('Which salt', 'fine');
    expect(page.text()).toContain('120.8 g');
    expect(page.text()).toContain('4.26 %');
    await page.press('metric');
    expect(page.text()).toContain('No metric measure of that name exists');
  });
  it('W5: heavy salt and rinse; a measured value replaces the estimate', async () => {
    const page = await open(HeavyTool);
    await page.fill({ 'Leaf, trimmed': '1000', 'Salt on it': '100' });
    expect(page.text()).toContain('6.20 %');
    expect(page.text()).toContain('About 2.72 %');
    await page.fill({
      'Leaf, trimmed': '6000',
      'Water in the leaf': '93',
      'Salt on it': '480',
      Rest: '120',
      Rinses: '2',
      'Litres per kg': '1.5',
    });
    expect(page.text()).toContain('About 3.58 %');
    await page.type('Measured on the juice', '3.1');
    expect(page.text()).toContain('Measured 3.10 % replaces the estimate of 3.58 %');
  });
  it('Celsius and Fahrenheit, refused beyond what a room or pan can have', async () => {
    const page = await open(TemperatureTool);
    await page.type('Celsius or Fahrenheit', '64 F');
    expect(page.text()).toContain('17.8 °C');
    await page.type('Celsius or Fahrenheit', '900');
    expect(page.text()).toContain('−5 to 130 °C');
  });
  it('W16 and W18: a sauce into bottles, jars back to what to buy', async () => {
    const page = await open(JarTool);
    await page.fill({ Jars: '120' });
    expect(page.text()).toContain('22.27 kg solids in jars ← 22.96 kg drained ← 24.69 kg trimmed ← 30.48 kg to buy');
    await page.fill({ 'Drained solids': '18.40', 'Bottles set out': '160' });
    expect(page.text()).toContain('163 bottles and 42 g left. 3 missing before the first is filled.');
    await page.fill({ Batch: '2', 'Large ones ordered': '1' });
    expect(page.text()).toContain('4 small and 1 large; 30 g left');
  });
});
