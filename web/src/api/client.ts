import createClient from 'openapi-fetch';
import { useSyncExternalStore } from 'react';
import { early } from './early';
import { newKey } from './key';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Slip = Schemas['Slip'];
export type SlipKind = Schemas['SlipKind'];
export type SlipChange = Schemas['SlipChange'];
export type SlipOpened = Schemas['SlipOpened'];
export type Source = Schemas['Source'];
export type SourceType = Schemas['SourceType'];
export type SourceChange = Schemas['SourceChange'];
export type SourceOpened = Schemas['SourceOpened'];
export type Topic = Schemas['Topic'];
export type TopicMark = Schemas['TopicMark'];
export type TopicColour = Schemas['TopicColour'];
export type Piece = Schemas['Piece'];
export type PieceChange = Schemas['PieceChange'];
export type Draft = Schemas['Draft'];
export type Section = Schemas['SectionFigures'];
export type GoneSection = Schemas['GoneSection'];
export type Anchor = Schemas['Anchor'];
export type Inserted = Schemas['Inserted'];
export type Merged = Schemas['Merged'];
export type VersionShown = Schemas['VersionShown'];
export type ComparedParagraph = Schemas['ComparedParagraph'];
export type MergedPart = Schemas['MergedPart'];
export type BeforeOutNote = Schemas['BeforeOutNote'];
export type Counts = Schemas['Counts'];
export type Material = Schemas['Material'];
export type Move = Schemas['Move'];
export type Format = Schemas['Format'];
export type WorthLine = Schemas['WorthLine'];
export type Decision = Schemas['Decision'];
export type Advice = Schemas['Advice'];
export type Alike = Schemas['Alike'];
export type QueueGroup = Schemas['QueueGroup'];
export type Caught = Schemas['Caught'];
export type ReadAnswer = Schemas['ReadAnswer'];
export type Hit = Schemas['Hit'];
export type SaidAlready = Schemas['SaidAlready'];
export type SavedView = Schemas['SavedView'];
export type ViewColumn = Schemas['ViewColumn'];
export type ViewGroup = NonNullable<Schemas['ViewGroup']>;
export type ListSort = NonNullable<Schemas['ListSort']>;
export type PileOrder = Schemas['WordOfPileOrder'];
export type InState = 'sight' | 'waiting' | 'kept' | 'held' | 'dropped' | 'trashed' | 'all';
export type SeveralChange = Schemas['SeveralChange'];
export type Reference = Schemas['Reference'];
export type HistoryLine = Schemas['HistoryLine'];
export type LinkLine = Schemas['LinkLine'];
export type LibraryEntry = Schemas['LibraryEntry'];
export type ImportState = Schemas['ImportState'];
export type Attachment = Schemas['Attachment'];
export type ShownLine = Schemas['ShownLine'];
export type DayMarks = Schemas['DayMarks'];
export type Checklist = Schemas['Checklist'];
export type PieceStep = Schemas['PieceStep'];
export type FieldShown = Schemas['FieldShown'];
export type SideTextShown = Schemas['SideTextShown'];
export type FormatOpened = Schemas['FormatOpened'];
export type OwnField = Schemas['OwnField'];
export type Brief = Schemas['Brief'];
export type BriefShown = Schemas['BriefShown'];
export type BriefChange = Schemas['BriefChange'];
export type TitleLine = Schemas['TitleLine'];
export type ToFind = Schemas['ToFind'];
export type PieceReference = Schemas['PieceReferenceShown'];
export type RouteShown = Schemas['RouteShown'];
export type Fault = Schemas['Fault'];
export type RouteSection = Schemas['RouteSection'];
export type ProposalShown = Schemas['ProposalShown'];
export type ProposedSection = Schemas['ProposedSection'];
export type MarkShown = Schemas['MarkShown'];
export type SeveralAct = Schemas['SeveralAct'];
export type SeriesShown = Schemas['SeriesShown'];
export type SeriesChange = Schemas['SeriesChange'];
export type Measured = Schemas['Measured'];
export type StartOffer = Schemas['StartOffer'];
export type Idea = Schemas['WorthLine'];
export type WorthTerm = Schemas['WorthTerm'];
export type Weights = Schemas['Weights'];

export type InTheWay = { command: number; thing: Reference | null };

/** Something the server refused, or that it could not be asked at all (status 0). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field: string = '',
    readonly current: unknown = undefined,
    /** The command that stands in the way, and what it was about. */
    readonly inTheWay: InTheWay | undefined = undefined,
  ) {
    super(message);
  }

  /** The server can't be reached; asking again later may go well. */
  get isAway(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503;
  }
}

/** How long to wait before asking again; undefined where that would go no better: until the server is back, or the disk has room. */
export const soonAgain = (problem: unknown) =>
  !(problem instanceof Problem) ? undefined : problem.isAway ? 2_000 : problem.status === 507 ? 15_000 : undefined;

export const api = createClient<paths>({ baseUrl: '/', credentials: 'same-origin' });

/** This tab, so that it knows its own changes again when it is told of them. */
export const thisTab = newKey();

let running = 0;
const busyWatchers = new Set<() => void>();
function count(by: number) {
  running += by;
  busyWatchers.forEach((watch) => watch());
}

/** How many changes are under way. */
export const useRunning = () =>
  useSyncExternalStore(
    (watch) => {
      busyWatchers.add(watch);
      return () => busyWatchers.delete(watch);
    },
    () => running,
  );

api.use({
  async onRequest({ request }) {
    const answer = await early(request)?.catch(() => undefined);
    if (answer) return answer;
    request.headers.set('Nachlass-Tab', thisTab);
    // One key for each thing asked, so that a request the network repeats is done once.
    if (request.method === 'POST' && !request.headers.has('Idempotency-Key'))
      request.headers.set('Idempotency-Key', newKey());
    return request;
  },
});

type Answered<T> = { data?: T; error?: unknown; response: Response };

/** What a command answered, the number under which it can be taken back, and what rules did in the same step. */
export type Done<T> = { answer: T; command: number; followed?: string };

/** Waits for an answer; anything else is thrown as a {@link Problem}. */
export async function done<T>(asked: Promise<Answered<T>>): Promise<Done<T>> {
  let answered: Answered<T>;
  count(1);
  try {
    answered = await asked;
  } catch {
    throw new Problem(
      0,
      'The server can’t be reached. What you wrote is kept here; it goes on by itself when the server is back.',
    );
  } finally {
    count(-1);
  }
  const { data, error, response } = answered;
  if (response.status === 401 && location.pathname !== '/sign-in')
    location.assign(`/sign-in?back=${encodeURIComponent(location.pathname + location.search)}`);
  if (!response.ok) {
    const problem = (error ?? {}) as {
      detail?: string;
      title?: string;
      field?: string;
      current?: unknown;
      inTheWay?: InTheWay | null;
    };
    throw new Problem(
      response.status,
      problem.detail ?? problem.title ?? `The server answered ${response.status}.`,
      problem.field,
      problem.current,
      problem.inTheWay ?? undefined,
    );
  }
  return {
    answer: data as T,
    command: Number(response.headers.get('Nachlass-Command') ?? 0),
    followed: decodeURIComponent(response.headers.get('Nachlass-Rules') ?? ''),
  };
}

/** Waits for an answer that changes nothing. */
export async function ask<T>(asked: Promise<Answered<T>>): Promise<T> {
  return (await done(asked)).answer;
}
