import type { components } from '$lib/api/schema';

export type LoadTest = components['schemas']['LoadTestOut'];
export type LoadRun = components['schemas']['LoadRunOut'];
export type Bank = components['schemas']['BankOut'];
export type Jets = components['schemas']['JetsOut'];
export type Joint = components['schemas']['TogetherOut'];
export type PlugLooks = components['schemas']['PlugLooksOut'];
export type PlugRead = components['schemas']['PlugReadOut'];
export type What = components['schemas']['AdviceRunOut']['what'];

/** What can be decided after a run, in words. */
export const DECIDED: Record<What, string> = {
  '': '',
  keep: 'Keep it',
  screw_out: 'Open the load screw (richer)',
  screw_in: 'Close the load screw (leaner)',
  jet_up: 'Larger jet',
  jet_down: 'Smaller jet',
  put_right: 'Put right first'
};
