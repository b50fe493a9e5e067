import { readdirSync, existsSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { PAGES, QUICK, STAGES } from '$lib/api/published';
import { pageOf, viewsAt } from '$lib/frame/current.svelte';

const JOB = 'src/routes/jobs/[id]';

describe('what the core publishes and the page builds', () => {
  it('has a route for every page of every stage', () => {
    const missing = PAGES.filter(
      ({ page, stage }) =>
        !existsSync(`${JOB}/${page}/+page.svelte`) &&
        !(page === `${stage}/record` && existsSync(`${JOB}/[stage]/record/+page.svelte`))
    );
    expect(missing).toEqual([]);
  });

  it('has no route of a stage the core does not know', () => {
    const known: string[] = STAGES.map(({ key }) => key);
    const folders = readdirSync(JOB, { withFileTypes: true }).filter((one) => one.isDirectory());
    for (const { name } of folders) if (!name.startsWith('[')) expect(known).toContain(name);
  });

  it.each([
    ['set.running', 'intake/set'],
    ['set.carburetor.jetted_at', 'intake/set'],
    ['set.carburetor.choke', 'intake/machine'],
    ['set.carburetor.jets.fitted.number', 'load_test/jets'],
    ['set.carburetor.jets.stamped.number', 'intake/machine'],
    ['sites.s1.elevation', 'intake/site'],
    ['sites.s2.sketch.items.a', 'intake/sketch'],
    ['sites.s1.gases.g1.house.allowed', 'fuel_path/house'],
    ['sites.s1.gases.g1.pressure', 'intake/site'],
    ['load.planned', 'intake/wish'],
    ['load_tests.s1-propane', 'load_test/test'],
    ['findings.oil', 'intake/walk'],
    ['fit.steps.x', 'fit/sheet'],
    ['fit.left.h1', 'fit/map'],
    ['proof.propane', 'prove_tight/leaks'],
    ['starts.propane', 'first_start/start'],
    ['metering.s1-propane.locked', 'first_start/metering'],
    ['trains.propane', 'fuel_path/train'],
    ['confirmed.fitter', 'fuel_path/ready'],
    ['choice.methods', 'method/compare'],
    ['nowhere', 'intake/set']
  ])('leads from %s to %s', (path, page) => {
    expect(pageOf(path)).toBe(page);
  });

  it('asks for what a page shows along with its job', () => {
    expect(viewsAt('/jobs/1/method/output')).toBe('output,runs');
    expect(viewsAt('/jobs/1/fit/bench')).toBe('fit');
    expect(viewsAt('/')).toBe('');
  });

  it('names every quick answer once', () => {
    const names = QUICK.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
  });
});
