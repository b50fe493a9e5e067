/** One attempt at starting, as it is noted. */
export interface Tried {
  choke: 'open' | 'half' | 'shut';
  presses: number;
  seconds: number;
  hiss: '' | 'heard' | 'not_heard';
  result: 'runs' | 'dies' | 'coughs' | 'nothing' | 'smells';
}

export const RESULTS: Record<string, string> = {
  runs: 'it runs',
  dies: 'starts, then dies',
  coughs: 'coughs',
  nothing: 'nothing',
  smells: 'gas is smelled outside it'
};
