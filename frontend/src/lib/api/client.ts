import createClient from 'openapi-fetch';
import { counted } from './settled';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Snapshot = Schemas['SnapshotOut'];
export type Figure = Schemas['FigureOut'];
export type FuelOutput = Schemas['FuelOutputOut'];
export type Output = Schemas['OutputOut'];
export type Run = Schemas['RunOut'];
export type Flow = Schemas['FlowOut'];
export type Stage = Schemas['StageOut'];
export type Caution = Schemas['CautionOut'];
export type Reference = Schemas['ReferenceOut'];
export type CylinderAnswer = Schemas['CylinderOut'];
export type Found = Schemas['FoundOut'];
export type Me = Schemas['MeOut'];
export type Everybody = Schemas['EverybodyOut'];
export type Board = Schemas['BoardOut'];
export type BoardRow = Schemas['BoardRowOut'];
export type Change = Partial<Schemas['ChangeIn']> & { path: string };
export type Fact = Schemas['Fact'];
export type Job = Schemas['Job'];
export type Ask = Schemas['AskOut'];
export type Check = Schemas['CheckOut'];
export type Judged = Schemas['JudgedOut'];
export type States = Schemas['StatesOut'];
export type ReadyItem = Schemas['ItemOut'];
export type Like = Schemas['LikeOut'];
export type Finding = Schemas['Finding'];
export type Mixture = Schemas['MixtureOut'];
export type QuickForm = Schemas['FormOut'];
export type Answered = Schemas['AnsweredOut'];
export type Appliance = Schemas['Appliance'];
export type SketchItem = Schemas['SketchItem'];
export type Train = Schemas['TrainOut'];
export type Place = Schemas['PlaceOut'];
export type Trouble = Schemas['TroubleOut'];
export type Proposal = Schemas['ProposalOut'];
export type PartOption = Schemas['PartOptionOut'];
export type Bill = Schemas['BillOut'];
export type StackView = Schemas['StackOut'];
export type StoredTrain = Schemas['Train'];
export type Part = Schemas['Part'];
export type System = 'us' | 'metric';

export interface ProblemBody {
  /** Which kind of problem, where it matters. */
  type?: string;
  title: string;
  detail: string;
  status: number;
  errors: { path: string; message: string }[];
}

/** A refusal the server gave in its one error shape, or the lack of any answer (status 0). */
export class Refusal extends Error {
  readonly status: number;
  /** Which kind of refusal, as the server names it: `code`, `sign-in`, `role`… */
  readonly kind: string;
  readonly errors: { path: string; message: string }[];

  constructor(body: ProblemBody) {
    super(body.detail);
    this.status = body.status;
    this.kind = body.type?.replace('/problems/', '') ?? '';
    this.errors = body.errors;
  }
}

/** What happens where an answer says that nobody is signed in. */
export const refusals: { signIn?: () => void } = {};

const UNREACHED: ProblemBody = {
  title: 'No answer',
  detail: 'The server does not answer. What you typed is kept here.',
  status: 0,
  errors: []
};

export const api = createClient<paths>({ baseUrl: '', fetch: counted });

interface Answer<T> {
  data?: T;
  error?: unknown;
  response?: Response;
}

/** Unwrap a call: its data, or a Refusal. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let result: Answer<T>;
  try {
    result = await call;
  } catch {
    throw new Refusal(UNREACHED);
  }
  // Nothing is an answer too, where the service says so.
  if (result.data !== undefined || result.response?.status === 204) return result.data as T;
  const body = result.error as Partial<ProblemBody> | undefined;
  if (!body || typeof body.status !== 'number') throw new Refusal(UNREACHED);
  if (body.status === 401) refusals.signIn?.();
  throw new Refusal({ ...UNREACHED, ...body });
}
