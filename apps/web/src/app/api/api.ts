import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { catchError, Observable, throwError } from 'rxjs';
import type {
  LabelPreview,
  CauseReply,
  CorrectionReply,
  DeviceNote,
  EntriesReply,
  Entry,
  Problem,
  SessionReply,
  SignInReply,
  VerificationReply,
} from '@clear-tally/contract';

/** What the wire can answer instead of data: the server's refusal, or no server at all. */
export type WireProblem =
  | Problem
  | {
      readonly code: 'offline';
      readonly detail: string;
      readonly field?: string;
      readonly facts?: Record<string, unknown>;
      readonly entry?: number;
    };

export type LiveNote =
  | { readonly kind: 'recorded'; readonly note: string }
  | { readonly kind: 'ended' }
  | { readonly kind: 'device'; readonly note: DeviceNote };

@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  read(url: string): Observable<object> {
    return this.http.get<object>(url).pipe(catchError(asProblem));
  }

  record(entries: readonly Entry[]): Observable<EntriesReply> {
    return this.http.post<EntriesReply>('/api/entries', { entries }).pipe(catchError(asProblem));
  }

  /** What a correction would change; nothing is recorded. */
  lookAtCorrection(entry: Entry): Observable<CorrectionReply> {
    return this.http.post<CorrectionReply>('/api/corrections/preview', entry).pipe(catchError(asProblem));
  }

  /** What happens elsewhere, live; the browser opens a lost line again by itself. */
  notes(): Observable<LiveNote> {
    return new Observable((subscriber) => {
      const source = new EventSource('/api/live');
      source.addEventListener('recorded', (event: MessageEvent<string>) =>
        subscriber.next({ kind: 'recorded', note: event.data }),
      );
      source.addEventListener('ended', () => subscriber.next({ kind: 'ended' }));
      // A line that was lost and is back may have missed something.
      let opened = false;
      source.addEventListener('open', () => {
        if (opened) subscriber.next({ kind: 'recorded', note: 'again' });
        opened = true;
      });
      source.addEventListener('device', (event: MessageEvent<string>) =>
        subscriber.next({ kind: 'device', note: JSON.parse(event.data) as DeviceNote }),
      );
      return () => source.close();
    });
  }

  /** A word to a device of the bench: `TARE`, `UNIT g`. */
  device(id: string, line: string): Observable<object> {
    return this.http.post<object>(`/api/devices/${id}/command`, { line }).pipe(catchError(asProblem));
  }

  /** Labels on a label printer; answered when they are out. */
  print(id: string, lots: readonly string[], copies: number): Observable<object> {
    return this.http.post<object>(`/api/devices/${id}/print`, { lots, copies }).pipe(catchError(asProblem));
  }

  /** One label of a jar on a label printer; answered when it is out. */
  printJar(id: string, of: { code: string; designId: string; serial: number }): Observable<object> {
    return this.http.post<object>(`/api/devices/${id}/print-jar`, of).pipe(catchError(asProblem));
  }

  /** A label of a jar as it would stand there; nothing is recorded. */
  lookAtLabel(code: string, design: object, serial: number): Observable<LabelPreview> {
    return this.http
      .post<LabelPreview>(`/api/runs/${encodeURIComponent(code)}/labels/preview`, { design, serial })
      .pipe(catchError(asProblem));
  }

  /** What bad jars share that good ones have not; nothing is recorded. */
  sharedCause(bad: readonly string[]): Observable<CauseReply> {
    return this.http.post<CauseReply>('/api/shared-cause', { bad }).pipe(catchError(asProblem));
  }

  /** Who complained, kept beside the book; null deletes it for good. */
  complaintContact(complaintId: string, words: string | null): Observable<object> {
    const at = `/api/complaints/${complaintId}/contact`;
    return (words === null ? this.http.delete<object>(at) : this.http.put<object>(at, { words })).pipe(
      catchError(asProblem),
    );
  }

  /** Keeps a picture; entries name it by the id answered. */
  photo(picture: Blob): Observable<{ id: string }> {
    return this.http
      .post<{ id: string }>('/api/photos', picture, { headers: { 'content-type': picture.type } })
      .pipe(catchError(asProblem));
  }

  /** The private address of the calendar feed: made anew, or taken back. */
  calendar(what: 'make' | 'revoke'): Observable<{ address?: string }> {
    return (
      what === 'make'
        ? this.http.post<{ address: string }>('/api/calendar', {})
        : this.http.delete<object>('/api/calendar')
    ).pipe(catchError(asProblem));
  }

  session(): Observable<SessionReply> {
    return this.http.get<SessionReply>('/api/session').pipe(catchError(asProblem));
  }

  choices(): Observable<SignInReply> {
    return this.http.get<SignInReply>('/api/sign-in').pipe(catchError(asProblem));
  }

  /** Founds the house of an empty ledger, and signs its owner in. */
  found(asked: object): Observable<SessionReply> {
    return this.http.post<SessionReply>('/api/found', asked).pipe(catchError(asProblem));
  }

  /** The start command opens the other house: the demo's, or one's own. */
  goOver(): Observable<object> {
    return this.http.post<object>('/api/other-house', {}).pipe(catchError(asProblem));
  }

  signIn(personId: string, pin: string): Observable<SessionReply> {
    return this.http.post<SessionReply>('/api/session', { personId, pin }).pipe(catchError(asProblem));
  }

  /** The person signed in proves again who they are: before a signature. */
  prove(pin: string): Observable<SessionReply> {
    return this.http.post<SessionReply>('/api/session/proof', { pin }).pipe(catchError(asProblem));
  }

  /** One's own PIN or passphrase: other sign-ins of the same person end. */
  changePin(old: string, pin: string): Observable<SessionReply> {
    return this.http.post<SessionReply>('/api/session/pin', { old, pin }).pipe(catchError(asProblem));
  }

  /** An owner gives somebody else a PIN. */
  givePin(personId: string, pin: string): Observable<object> {
    return this.http.post<object>(`/api/people/${personId}/pin`, { pin }).pipe(catchError(asProblem));
  }

  /** An owner ends what keeps a person out. */
  endLocks(personId: string): Observable<object> {
    return this.http.delete<object>(`/api/people/${personId}/locks`).pipe(catchError(asProblem));
  }

  /** An owner has the whole house looked at; `end`: one that was kept elsewhere. */
  verify(end: unknown): Observable<VerificationReply> {
    return this.http.post<VerificationReply>('/api/verification', { end }).pipe(catchError(asProblem));
  }

  signOut(): Observable<SessionReply> {
    return this.http.delete<SessionReply>('/api/session').pipe(catchError(asProblem));
  }
}

function asProblem(error: unknown): Observable<never> {
  const body = error instanceof HttpErrorResponse ? (error.error as Problem | null) : null;
  if (body && typeof body === 'object' && 'code' in body) return throwError(() => body);
  return throwError((): WireProblem => ({
    code: 'offline',
    detail: 'The server does not answer. What you typed is kept here; record it when the connection is back.',
  }));
}
