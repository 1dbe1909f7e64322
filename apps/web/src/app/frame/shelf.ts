import { afterNextRender, Component, computed, DestroyRef, ElementRef, inject, input, signal } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import type { ShelfReply, ShelfVessel } from '@clear-tally/contract';
import { fitShelf, type ShelfRoom } from './shelf-fit';
import { phWords } from '../ui/ph-words';
import { TallyStrokes } from '../ui/tally-strokes';
import { VesselDrawing, type DrawnVessel } from '../ui/vessel-drawing';

/** The row of live vessels across every page: navigation, status and the house's picture in one. */
@Component({
  selector: 'ct-shelf',
  imports: [RouterLink, RouterLinkActive, TallyStrokes, VesselDrawing],
  template: `
    <ul class="rooms">
      @for (room of rooms(); track room.id) {
        <li class="room">
          <p class="name">
            {{ room.name }}
            @if (room.celsius !== null) {
              <span class="figure">{{ room.celsius.toFixed(1) }} °C</span>
            }
          </p>
          <ul class="vessels">
            @for (vessel of room.vessels; track vessel.lotId) {
              <li>
                <a
                  [routerLink]="['/lots', vessel.code]"
                  routerLinkActive="here"
                  [attr.aria-label]="words(vessel)"
                  [title]="words(vessel)"
                >
                  <ct-vessel-drawing [vessel]="drawn(vessel)" [scale]="scale()" />
                  <span class="day figure">{{ vessel.vesselTag }}<i>·</i>{{ vessel.day }}</span>
                  @if (vessel.seen && !vessel.hold) {
                    <svg class="seen" viewBox="0 0 14 13" width="14" height="13" aria-hidden="true">
                      <path d="M7 1l6 11H1z" />
                      <path d="M7 5v3.4M7 9.6v1" />
                    </svg>
                  }
                  <ct-tally-strokes [count]="vessel.readings" [due]="vessel.due" [late]="vessel.late" />
                </a>
              </li>
            }
            @if (room.beyond > 0) {
              <li>
                <a class="beyond" routerLink="/floor" [attr.aria-label]="beyondWords(room)" [title]="beyondWords(room)"
                  ><b class="figure" [class.beet]="room.beyondLate > 0">+{{ room.beyond }}</b></a
                >
              </li>
            }
          </ul>
        </li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      overflow-x: auto;
      overflow-y: hidden;
      height: 100%;
      scrollbar-width: thin;
    }
    .rooms {
      display: flex;
      gap: 16px;
      height: 100%;
      align-items: flex-end;
      min-width: max-content;
      padding: 0 4px;
    }
    .room {
      display: grid;
      grid-template-rows: 17px 1fr;
      height: 100%;
      align-items: end;
    }
    .name {
      font-size: 13px;
      line-height: 17px;
      color: var(--soft);
      white-space: nowrap;
    }
    .vessels {
      display: flex;
      align-items: flex-end;
      border-bottom: 1px solid var(--hair);
    }
    a {
      display: grid;
      justify-items: center;
      padding: 0 3px 2px;
      min-width: 40px;
      color: inherit;
      text-decoration: none;
      border: 2px solid transparent;
    }
    a.here {
      background: var(--brine-wash);
      border-color: var(--brine);
    }
    a {
      position: relative;
    }
    .seen {
      position: absolute;
      top: 2px;
      right: 1px;
      fill: var(--paper);
      stroke: var(--mustard);
      stroke-width: 1.6;
    }
    .beyond {
      align-content: center;
      height: 64px;
    }
    .day {
      font-size: 12px;
      font-weight: 600;
    }
    .day i {
      color: var(--soft);
      padding: 0 1px;
      font-style: normal;
    }
  `,
})
export class Shelf {
  readonly shelf = input.required<ShelfReply>();
  /** What the row has between the name and the code box; on a tablet of 1280 pixels until it is measured. */
  private readonly width = signal(850);
  private readonly fitted = computed(() => fitShelf(this.shelf(), this.width()));
  protected readonly scale = computed(() => this.fitted().scale);
  protected readonly rooms = computed(() => this.fitted().rooms);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const seen = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) this.width.set(entry.contentRect.width - 8);
    });
    afterNextRender(() => seen.observe(host));
    inject(DestroyRef).onDestroy(() => seen.disconnect());
  }

  protected beyondWords({ name, beyond, beyondLate }: ShelfRoom): string {
    return `${beyond} more in ${name}${beyondLate > 0 ? `, ${beyondLate} of them held or late` : ''}: the floor shows all`;
  }

  protected drawn(vessel: ShelfVessel): DrawnVessel {
    return {
      shape: vessel.shape,
      closure: vessel.closure,
      brimMl: vessel.brimMl,
      fill: vessel.fillGrams / vessel.brimMl,
      hold: vessel.hold !== null,
      formulaNumber: vessel.formulaNumber,
    };
  }

  protected words(vessel: ShelfVessel): string {
    return `${vessel.vesselTag}, ${vessel.name}, day ${vessel.day}, ${phWords(vessel)}${vessel.hold ? `, on hold: ${vessel.hold}` : ''}${vessel.seen ? `, ${vessel.seen.verdict}: ${vessel.seen.name}` : ''}${vessel.late > 0 ? `, ${vessel.late} late` : vessel.due > 0 ? `, ${vessel.due} due` : ''}`;
  }
}
