<script lang="ts">
  import type { components } from '$lib/api/schema';
  import { freshKey } from '$lib/session/record';
  import { prefs } from '$lib/session/prefs.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import CsvFile from '$lib/ui/CsvFile.svelte';

  const job = useJob();
  let place = $derived(`/api/jobs/${job().id}/runs.csv?system=${prefs.system}`);

  function keep(read: unknown): string {
    const { runs, already } = read as components['schemas']['RunsOut'];
    const first = freshKey('c');
    const held = job().settled?.job.logbook?.runs ?? {};
    const added = Object.fromEntries(runs.map((run, i) => [`${first}-${i}`, run]));
    if (runs.length) job().set('logbook.runs', { ...held, ...added });
    return `${runs.length} taken in${already ? `, ${already} were there already` : ''}.`;
  }
</script>

<CsvFile
  {place}
  what="runs"
  words="Columns: day, hours or meter, fuel, load, used, remark, by"
  {keep}
/>
<a class="link" href={`/api/jobs/${job().id}/runs-form.pdf?system=${prefs.system}`} download
  >Sheet to write runs on, PDF</a
>
