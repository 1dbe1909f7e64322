import { DestroyRef, inject, Injectable } from '@angular/core';

/** A scanned code: whoever shows something it belongs to takes it; else it opens its trace. */
@Injectable({ providedIn: 'root' })
export class Scans {
  private readonly takers: ((code: string) => boolean)[] = [];

  /** True when somebody took it. The last to come is asked first. */
  offer(code: string): boolean {
    return [...this.takers].reverse().some((take) => take(code));
  }

  add(take: (code: string) => boolean): () => void {
    this.takers.push(take);
    return () => void this.takers.splice(this.takers.indexOf(take), 1);
  }
}

/** Takes scanned codes as long as the calling component lives. */
export function takesScans(take: (code: string) => boolean): void {
  inject(DestroyRef).onDestroy(inject(Scans).add(take));
}
