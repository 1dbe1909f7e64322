import { Component, computed, input } from '@angular/core';

/** What of a finding can be drawn: colours and marks laid over a vessel cut open, a piece, or a jar. */
interface Picture {
  readonly on: 'vessel' | 'piece' | 'jar' | 'bag' | 'nose';
  readonly brine?: string;
  readonly marks?: readonly string[];
}

const BRINE = '#dfe7cf';
const PICTURES: Record<string, Picture> = {
  bubbles: { on: 'vessel', marks: ['bubbles'] },
  noLife: { on: 'vessel', brine: '#e8f1f0' },
  cloudy: { on: 'vessel', brine: '#e9e6d6', marks: ['cloud'] },
  sediment: { on: 'vessel', marks: ['sediment'] },
  olive: { on: 'piece', marks: ['olive'] },
  uneven: { on: 'piece', marks: ['uneven'] },
  blueGreenIn: { on: 'piece', marks: ['pigment'] },
  glassy: { on: 'piece', marks: ['glassy'] },
  soft: { on: 'piece', marks: ['soft'] },
  film: { on: 'vessel', marks: ['film'] },
  fuzz: { on: 'vessel', marks: ['fuzz'] },
  pinkTop: { on: 'vessel', marks: ['pink'] },
  redBleed: { on: 'vessel', brine: '#e9b9b4' },
  dryTop: { on: 'vessel', marks: ['dry'] },
  ropy: { on: 'vessel', marks: ['ropy'] },
  floaters: { on: 'vessel', marks: ['floaters'] },
  overflow: { on: 'vessel', marks: ['overflow'] },
  dryLock: { on: 'vessel', marks: ['lock'] },
  flies: { on: 'vessel', marks: ['flies'] },
  looksRight: { on: 'vessel' },
  glass: { on: 'jar', marks: ['crack'] },
  sourSmell: { on: 'nose', marks: ['wave'] },
  sulphur: { on: 'nose', marks: ['wave', 'leaf'] },
  alcohol: { on: 'nose', marks: ['wave', 'bread'] },
  solvent: { on: 'nose', marks: ['sharp'] },
  putrid: { on: 'nose', marks: ['rot'] },
  hissHeated: { on: 'jar', marks: ['bulge', 'heat'] },
  hissLive: { on: 'jar', marks: ['bulge', 'cold'] },
  heatedCloudy: { on: 'jar', brine: '#dcd7c0', marks: ['heat', 'cloud', 'bubbles'] },
  sealFailed: { on: 'jar', marks: ['heat', 'gap'] },
  sauceSettles: { on: 'jar', marks: ['layers'] },
  crystals: { on: 'jar', marks: ['crystals'] },
  bagLeaks: { on: 'bag', marks: ['loose'] },
  bagDrum: { on: 'bag', marks: ['tight'] },
};

let drawn = 0;

/** A finding as a plain drawing, so that it can be laid beside its double. */
@Component({
  selector: 'ct-finding-drawing',
  template: `
    <svg viewBox="0 0 120 96" [attr.width]="width()" [attr.height]="width() * 0.8" aria-hidden="true">
      <defs>
        <clipPath [attr.id]="id + 'v'"><path d="M26 14h68v72q0 6-6 6H32q-6 0-6-6z" /></clipPath>
        <clipPath [attr.id]="id + 'j'"><path d="M34 24h52v62q0 5-5 5H39q-5 0-5-5z" /></clipPath>
        <clipPath [attr.id]="id + 'p'"><ellipse cx="60" cy="50" rx="40" ry="32" /></clipPath>
      </defs>
      @switch (picture().on) {
        @case ('vessel') {
          <g [attr.clip-path]="'url(#' + id + 'v)'">
            <rect width="120" height="96" fill="#f3f5f2" />
            <rect y="34" width="120" height="62" [attr.fill]="brine()" />
            @if (!has('floaters')) {
              @for (piece of pieces; track $index) {
                <rect
                  [attr.x]="piece[0]"
                  [attr.y]="piece[1]"
                  width="15"
                  height="8"
                  rx="3"
                  [attr.transform]="'rotate(' + piece[2] + ' ' + piece[0] + ' ' + piece[1] + ')'"
                  fill="#b9c98c"
                  stroke="#7d8f57"
                  stroke-width="0.8"
                />
              }
            }
            @if (has('cloud')) {
              <rect y="34" width="120" height="62" fill="#fff" opacity="0.55" />
            }
            @if (has('sediment')) {
              <path d="M20 84q20-6 40-1t40-2v16H20z" fill="#fffdf4" stroke="#b8b29a" stroke-width="0.8" />
            }
            @if (has('film')) {
              <path d="M26 34q5-3 9 0t9 0 9 0 9 0 9 0 9 0 9 0 9 0v4H26z" fill="#fff" stroke="#8b938f" />
            }
            @if (has('fuzz')) {
              <g fill="#5f7f73" stroke="#33463f">
                <path d="M38 34c-2-9 3-12 6-11 2-5 9-4 9 1 5 0 6 7 3 10z" />
                <path d="M70 34c-1-6 3-8 6-7 3-4 8-1 7 2 3 1 3 4 2 5z" fill="#333" />
              </g>
              <path d="M42 22l-2-5M47 20l1-6M52 23l4-4M75 26l-1-5M80 27l3-4" stroke="#33463f" />
            }
            @if (has('pink')) {
              <g fill="#d9688f" stroke="#8a1c4a" stroke-width="0.8">
                <ellipse cx="46" cy="35" rx="12" ry="3.2" />
                <ellipse cx="76" cy="36" rx="8" ry="2.6" />
              </g>
            }
            @if (has('dry')) {
              <rect y="28" width="120" height="12" fill="#8f8065" />
              <path d="M30 34h8M46 32h10M66 35h9M82 32h8" stroke="#5f5443" />
            }
            @if (has('floaters')) {
              @for (x of [34, 52, 72]; track x) {
                <rect [attr.x]="x" y="28" width="16" height="8" rx="3" fill="#b9c98c" stroke="#7d8f57" />
              }
            }
            @if (has('flies')) {
              @for (x of [44, 62, 80]; track x) {
                <g [attr.transform]="'translate(' + x + ' 26)'">
                  <ellipse rx="3.4" ry="2" fill="#222" />
                  <path d="M-1-2q-3-5-5-3M1-2q3-5 5-3" stroke="#555" fill="none" />
                </g>
              }
            }
          </g>
          @if (has('bubbles')) {
            <g fill="#fff" stroke="#5b7f7f">
              @for (b of bubbles; track $index) {
                <circle [attr.cx]="b[0]" [attr.cy]="b[1]" [attr.r]="b[2]" />
              }
            </g>
          }
          @if (has('ropy')) {
            <path d="M60 34q-6-12 2-20M66 34q6-10 0-22" stroke="#a89d6a" stroke-width="3" fill="none" />
            <path d="M52 8h24l-4 8H56z" fill="#c9d1cf" stroke="#1b2a2f" />
          }
          @if (has('overflow')) {
            <path d="M26 14q-7 2-6 14t-2 30M94 14q8 3 6 20t3 44" stroke="#9fb07a" stroke-width="4" fill="none" />
            <path d="M8 92h104" stroke="#9fb07a" stroke-width="4" />
          }
          @if (has('lock')) {
            <path d="M66 14V6h8v6M58 14l20-4" stroke="#8a1c4a" stroke-width="2" fill="none" />
          }
          <path d="M26 14h68v72q0 6-6 6H32q-6 0-6-6z" fill="none" stroke="#1b2a2f" stroke-width="2" />
        }
        @case ('piece') {
          <ellipse
            cx="60"
            cy="50"
            rx="40"
            ry="32"
            [attr.fill]="has('olive') ? '#98a05c' : has('glassy') ? '#e4ecd6' : '#cfe3a4'"
            stroke="#1b2a2f"
            stroke-width="2"
          />
          <g [attr.clip-path]="'url(#' + id + 'p)'">
            @if (has('uneven')) {
              <ellipse cx="60" cy="50" rx="40" ry="32" fill="#98a05c" />
              <ellipse cx="60" cy="50" rx="22" ry="16" fill="#c5e88a" stroke="#7d9a4f" stroke-dasharray="3 3" />
            }
            @if (has('pigment')) {
              <ellipse cx="60" cy="50" rx="40" ry="32" fill="#f3f0df" />
              <path d="M34 40q20 8 26 0t26 4v22q-22 8-52 0z" fill="#3f9a95" opacity="0.75" />
              <path d="M30 50h60" stroke="#2d6f6c" opacity="0.5" />
            }
            @if (has('glassy')) {
              <path d="M30 66L80 22M44 76l42-36" stroke="#fff" stroke-width="5" opacity="0.8" />
            }
            @if (has('soft')) {
              <ellipse cx="60" cy="52" rx="17" ry="12" fill="#5f5443" />
              <path d="M24 40q10 6 4 14M88 30q-8 8 0 16" stroke="#7d8f57" stroke-width="3" fill="none" />
            }
          </g>
        }
        @case ('jar') {
          <rect
            x="32"
            y="12"
            width="56"
            height="12"
            [attr.fill]="has('gap') ? '#fff' : '#c9d1cf'"
            stroke="#1b2a2f"
            stroke-width="2"
            [attr.transform]="has('gap') ? 'rotate(-7 60 18)' : null"
          />
          @if (has('bulge')) {
            <path d="M32 12q28-14 56 0" fill="#c9d1cf" stroke="#8a1c4a" stroke-width="2.4" />
            <path d="M24 10l-6-5M96 10l6-5M60 2v-2" stroke="#8a1c4a" stroke-width="2.4" />
          }
          <g [attr.clip-path]="'url(#' + id + 'j)'">
            <rect y="24" width="120" height="8" fill="#f3f5f2" />
            <rect y="32" width="120" height="64" [attr.fill]="brine()" />
            @if (has('layers')) {
              <rect y="60" width="120" height="36" fill="#c98b4c" />
              <rect y="32" width="120" height="28" fill="#ecd9b3" />
            }
            @if (has('cloud')) {
              <rect y="32" width="120" height="60" fill="#fff" opacity="0.5" />
            }
            @if (has('crystals')) {
              <g fill="#fff" stroke="#5b7f7f">
                @for (b of bubbles; track $index) {
                  <path [attr.d]="'M' + (b[0] - 3) + ' ' + b[1] + 'l3-4 3 4-3 4z'" />
                }
              </g>
            }
            @if (has('bubbles')) {
              <g fill="#fff" stroke="#5b7f7f">
                @for (b of bubbles; track $index) {
                  <circle [attr.cx]="b[0]" [attr.cy]="b[1]" [attr.r]="b[2]" />
                }
              </g>
            }
          </g>
          <path d="M34 24h52v62q0 5-5 5H39q-5 0-5-5z" fill="none" stroke="#1b2a2f" stroke-width="2" />
          @if (has('crack')) {
            <path d="M70 26l-8 16 10 10-12 18 6 20" fill="none" stroke="#8a1c4a" stroke-width="2.6" />
            <path d="M88 58l9 4-7 6z" fill="#fff" stroke="#8a1c4a" stroke-width="1.6" />
          }
          @if (has('heat')) {
            <path d="M12 90q-5-7 0-13t0-13M22 90q-5-7 0-13t0-13" stroke="#9a6411" stroke-width="2.4" fill="none" />
          }
          @if (has('cold')) {
            <path d="M16 66v22M6 71l20 12M26 71L6 83" stroke="#3b5b8c" stroke-width="2.4" />
          }
        }
        @case ('bag') {
          @if (has('tight')) {
            <path d="M30 16h60q26 36-4 72H34Q4 52 30 16z" fill="#e7efd3" stroke="#1b2a2f" stroke-width="2" />
            <path d="M16 40l-8-3M104 40l8-3M14 64l-8 3M106 64l8 3" stroke="#8a1c4a" stroke-width="2.4" />
          } @else {
            <path d="M30 16h60l4 70q-34 8-68 0z" fill="#e7efd3" stroke="#1b2a2f" stroke-width="2" />
            <path d="M36 30q14 8 6 18t6 22M74 28q-10 14 2 22t-6 24" stroke="#8b938f" fill="none" />
            <path d="M90 86q6 4 4 8" stroke="#9fb07a" stroke-width="4" fill="none" />
          }
          @for (b of bubbles; track $index) {
            <circle [attr.cx]="b[0]" [attr.cy]="b[1] + 6" r="6" fill="#bcc56f" stroke="#7d8f57" />
          }
        }
        @case ('nose') {
          <path d="M28 92V78q0-8 10-8h44q10 0 10 8v14z" fill="#dfe7cf" stroke="#1b2a2f" stroke-width="2" />
          @if (has('wave')) {
            <path
              d="M42 62q-8-10 0-20t0-20M60 62q-8-10 0-20t0-20M78 62q-8-10 0-20t0-20"
              fill="none"
              stroke="#0b6e6e"
              stroke-width="2.6"
            />
          }
          @if (has('leaf')) {
            <path d="M92 20q14 2 12 18-16 0-12-18z" fill="#94b98a" stroke="#5c7a53" />
          }
          @if (has('bread')) {
            <path d="M88 38v-10q0-8 10-8t10 8v10z" fill="#d9c39a" stroke="#8a6a35" />
          }
          @if (has('sharp')) {
            <path
              d="M42 62l6-14-8-6 8-20M60 62l6-14-8-6 8-20M78 62l6-14-8-6 8-20"
              fill="none"
              stroke="#9a6411"
              stroke-width="2.6"
            />
          }
          @if (has('rot')) {
            <path
              d="M38 60q-10-12 2-20t-4-22M58 60q12-12-2-20t6-22M80 60q-10-12 2-20t-4-22"
              fill="none"
              stroke="#8a1c4a"
              stroke-width="4"
            />
            <path d="M96 18l14 14M110 18L96 32" stroke="#8a1c4a" stroke-width="3" />
          }
        }
      }
    </svg>
  `,
  styles: ':host { display: inline-block; line-height: 0; }',
})
export class FindingDrawing {
  readonly finding = input.required<string>();
  readonly width = input(120);
  protected readonly id = `finding-${(drawn += 1)}`;
  protected readonly picture = computed(() => PICTURES[this.finding()] ?? { on: 'vessel' as const });
  protected readonly brine = computed(() => this.picture().brine ?? BRINE);
  protected readonly pieces = [
    [34, 52, 8],
    [56, 48, -12],
    [76, 56, 20],
    [40, 70, -18],
    [62, 68, 6],
    [80, 74, -8],
  ] as const;
  protected readonly bubbles = [
    [44, 60, 2.4],
    [56, 46, 3.2],
    [70, 64, 2.2],
    [78, 50, 2.8],
    [50, 76, 2],
    [66, 80, 2.6],
  ] as const;

  protected has(mark: string): boolean {
    return this.picture().marks?.includes(mark) ?? false;
  }
}

/** Findings that have a drawing of their own. */
export const DRAWN: readonly string[] = Object.keys(PICTURES);
