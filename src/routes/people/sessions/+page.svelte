<script lang="ts">
  import { ROLE_WORDS } from '$core/people/roles';
  import ActionForm from '$lib/ActionForm.svelte';
  import { dayAndClock, shortTime } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
</script>

<svelte:head><title>Signed in · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Signed in</h1>
  <a class="btn ml-auto" href="/people">People</a>
</header>
<p class="small-words mt-1">
  A tablet that went missing, or somebody who forgot to sign out: end it here, and it is over on every page at
  once.
</p>
<ul class="ruled-list mt-3 max-w-4xl" aria-label="Signed in">
  {#each data.sessions as session (session.id)}
    <li class="flex flex-wrap items-center gap-x-5 gap-y-1 py-2">
      <span class="w-56 max-sm:w-full"
        ><b class="text-lg">{session.name}</b>
        <span class="small-words">{ROLE_WORDS[session.role]}</span></span
      >
      <span class="min-w-40 flex-1">
        {session.machine ? `at ${session.machine}` : 'at no machine'}{session.address
          ? `, from ${session.address}`
          : ''}
        <span class="small-words block"
          >since {dayAndClock(session.startedAt, zone)}, seen {shortTime(
            session.seenAt,
            data.now,
            zone,
          )}</span
        >
      </span>
      {#if session.own}<span class="small-words">this one</span>
      {:else}
        <ActionForm action="?/end" label="End the session of {session.name}">
          {#snippet children({ busy })}
            <input type="hidden" name="session" value={session.id} />
            <button class="btn" disabled={busy}>End it</button>
          {/snippet}
        </ActionForm>
      {/if}
    </li>
  {/each}
</ul>
<section class="mt-8 max-w-4xl" aria-labelledby="tries">
  <h2 id="tries" class="heading">Tries to sign in</h2>
  <table class="ruled mt-1 w-full">
    <thead
      ><tr
        ><th scope="col">When</th><th scope="col">Badge</th><th scope="col">From</th><th scope="col"
          >Answer</th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.tries as each, i (i)}
        <tr>
          <td class="whitespace-nowrap">{dayAndClock(each.at, zone)}</td>
          <td>{each.name ?? 'nobody’s'} <span class="small-words">{each.badge}</span></td>
          <td>{each.address}{each.known ? ', a tablet it knows' : ''}</td>
          <td class={each.good ? undefined : 'font-semibold text-accent'}
            >{each.good ? `let in${each.way === 'plant' ? ' by the plant’s sign-in' : ''}` : 'refused'}</td
          >
        </tr>
      {:else}<tr><td colspan="4">None yet.</td></tr>{/each}
    </tbody>
  </table>
  <p class="small-words mt-2">
    The last hundred. Those that were let in are kept for a year, the others for thirty days.
  </p>
</section>

<section class="mt-8" aria-labelledby="refused">
  <h2 id="refused" class="heading">Refused</h2>
  <ul class="ruled-list">
    {#each data.refusals as each, i (i)}
      <li class="py-2">
        <b>{each.name ?? 'A stranger'}</b>, {dayAndClock(each.at, zone)}{each.address
          ? `, ${each.address}`
          : ''}: {each.what}
      </li>
    {:else}<li class="py-2">Nothing yet.</li>{/each}
  </ul>
  <p class="small-words mt-2">
    Acts that somebody’s role does not allow, once in ten minutes each, and people whom the plant’s sign-in
    knows and the cell does not. Kept for a year.
  </p>
</section>
