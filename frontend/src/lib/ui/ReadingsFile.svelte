<script lang="ts">
  import { freshKey } from '$lib/session/record';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';
  import CsvFile from './CsvFile.svelte';

  interface Props {
    /** Where the service reads and writes them, below the job. */
    file: string;
    /** Where the job keeps them. */
    at: string;
    /** What a file holds. */
    words: string;
  }
  let { file, at, words }: Props = $props();
  const job = useJob();
  let place = $derived(`/api/jobs/${job().id}/${file}/readings.csv?system=${prefs.system}`);

  /** So many changes are taken as one write. */
  const MOST = 50;

  function keep(read: unknown): string {
    const { readings } = read as { readings: unknown[] };
    const first = freshKey('c');
    const changes = readings.map((value, i) => ({ path: `${at}.${first}-${i}`, value }));
    for (let from = 0; from < changes.length; from += MOST)
      job().setAll(changes.slice(from, from + MOST));
    return `${readings.length} taken in.`;
  }
</script>

<CsvFile {place} what="readings" words={`${words}; with units or without`} {keep} />
