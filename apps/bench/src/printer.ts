import { readLabel, writeHello, type Label } from '@clear-tally/core';
import bwipjs from 'bwip-js/node';
import type { SimulatedDevice } from './device.js';

/** One label takes so long, ms. */
const LABEL_MS = 350;

/** A label printer with a roll: prints what it is told, jams, runs out. Each label it shows as a picture. */
export class SimulatedPrinter implements SimulatedDevice {
  unplugged = false;
  private labels: number;
  private jammed = false;
  private hearing: string[] | null = null;
  private waiting: { job: string; label: Label; left: number }[] = [];
  private said = '';

  constructor(
    private readonly name: string,
    roll = 60,
  ) {
    this.labels = roll;
  }

  hello(): string {
    this.said = '';
    return writeHello({ kind: 'printer', name: this.name, simulated: true });
  }

  hear(line: string): string[] {
    const text = line.trimEnd();
    if (this.hearing || text.startsWith('LABEL ')) {
      this.hearing = [...(this.hearing ?? []), text];
      if (text !== 'END') return [];
      const read = readLabel(this.hearing);
      this.hearing = null;
      if (!read) return ['NO LABEL unreadable'];
      if (this.jammed) return [`NO LABEL jammed`];
      if (this.labels === 0) return ['NO LABEL empty'];
      this.waiting.push({ ...read, left: LABEL_MS });
      return [];
    }
    const [verb, action] = text.split(' ');
    if (verb !== 'SIM') return [`NO ${verb || 'LINE'} unknown`];
    switch (action) {
      case 'jam':
        this.jammed = true;
        break;
      case 'clear':
        this.jammed = false;
        break;
      case 'empty':
        this.labels = 0;
        break;
      case 'refill':
        this.labels = 60;
        break;
      case 'drop':
        this.unplugged = true;
        break;
      case 'plug':
        this.unplugged = false;
        break;
      default:
        return ['NO SIM unknown'];
    }
    return ['DONE SIM'];
  }

  pass(milliseconds: number): string[] {
    const lines: string[] = [];
    const [next] = this.waiting;
    if (next && !this.jammed && this.labels > 0) {
      next.left -= milliseconds;
      if (next.left <= 0) {
        this.waiting.shift();
        this.labels -= 1;
        lines.push(
          `PAPER ${next.job} ${Buffer.from(drawn(next.label)).toString('base64')}`,
          `PRINTED ${next.job} labels=${this.labels}`,
        );
      }
    } else if (next) {
      // What was waiting when it jammed is lost, and said.
      this.waiting.shift();
      lines.push(`NO LABEL ${this.jammed ? 'jammed' : 'empty'}`);
    }
    const state = `STATE ${this.jammed ? 'jammed' : this.labels === 0 ? 'empty' : 'ready'} labels=${this.labels}`;
    if (state !== this.said) lines.push(state);
    this.said = state;
    return lines;
  }
}

const escaped = (text: string): string => text.replace(/[&<>"]/g, (character) => `&#${character.charCodeAt(0)};`);

/** The label as it comes out, ten units a millimetre. */
function drawn(label: Label): string {
  const point = 3.53;
  // Where its own letters are missing, wider ones must not run off the paper.
  const squeezed = (text: Label['texts'][number]): string => {
    const room = (label.widthMm - text.xMm - 1) * 10;
    return text.words.length * text.points * point * 0.62 > room
      ? ` textLength="${room}" lengthAdjust="spacingAndGlyphs"`
      : '';
  };
  const texts = label.texts.map(
    (text) =>
      `<text x="${text.xMm * 10}" y="${text.yMm * 10 + text.points * point}" font-size="${text.points * point}"${text.bold ? ' font-weight="700"' : ''} font-family="Atkinson Hyperlegible Next, sans-serif"${squeezed(text)}>${escaped(text.words)}</text>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${label.widthMm * 10} ${label.heightMm * 10}"><rect width="100%" height="100%" fill="#fff"/>${texts.join('')}${label.symbol ? square(label.symbol) : ''}</svg>`;
}

/** The symbol by a library, placed where the label wants it. */
function square({ xMm, yMm, mm, content }: NonNullable<Label['symbol']>): string {
  const options = { bcid: 'qrcode', text: content, eclevel: 'M', scale: 1 };
  const svg = bwipjs.toSVG(options);
  const [, width = '1', height = '1'] = /viewBox="0 0 (\d+) (\d+)"/.exec(svg) ?? [];
  return svg.replace(
    /^<svg[^>]*>/,
    `<svg x="${xMm * 10}" y="${yMm * 10}" width="${mm * 10}" height="${mm * 10}" viewBox="0 0 ${width} ${height}">`,
  );
}
