import { accept, refuse, type Outcome } from '../refusal.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';

export const celsiusFromFahrenheit = (fahrenheit: number): number => ((fahrenheit - 32) * 5) / 9;
export const fahrenheitFromCelsius = (celsius: number): number => (celsius * 9) / 5 + 32;

/** °C from "14.2", "14,2 C", "58 F". A bare number is °C. Refuses outside −5 to 130 °C (handbook 2.8). */
export function parseTemperature(input: { text: string; decimalMark?: DecimalMark }): Outcome<number> {
  const match = /^(-?[\d.,−]+)\s*°?\s*([cf])?$/i.exec(input.text.trim());
  if (!match) return refuse('quantity.unreadable', `“${input.text}” is not a temperature. Type 14.2 or 57.6 F.`);
  const number = parseNumber({ text: match[1]!, decimalMark: input.decimalMark });
  if (!number.ok) return number;
  // A hundredth of a degree is more than a thermometer tells: 64.4 °F are 18 °C, not 18.000000000000004.
  const celsius =
    match[2]?.toLowerCase() === 'f' ? Math.round(celsiusFromFahrenheit(number.value) * 100) / 100 : number.value;
  return checkCelsius(celsius);
}

/** Refuses a temperature that no room, vessel or pan here can have. Source: handbook 2.8. */
export function checkCelsius(celsius: number, field = 'celsius'): Outcome<number> {
  if (!Number.isFinite(celsius) || celsius < -5 || celsius > 130) {
    return refuse(
      'temperature.outOfRange',
      `${celsius} °C was given. Temperatures from −5 to 130 °C are accepted: look at the unit and the decimal mark.`,
      {
        field,
        facts: { celsius },
      },
    );
  }
  return accept(celsius);
}
