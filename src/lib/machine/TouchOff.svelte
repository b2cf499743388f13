<script lang="ts">
  import { TIP_DIRECTIONS, tipWords } from '$core/length/tip-direction';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';

  interface Props {
    tools: {
      station: number;
      tool: number;
      number: string;
      name: string;
      x: Length | null;
      z: Length | null;
      noseRadius: Length | null;
      tip: number;
    }[];
    unit: LengthUnit;
  }
  let { tools, unit }: Props = $props();
  const show = (value: Length | null) =>
    value === null || value === 0 ? 'empty' : formatLength(value, unit);
</script>

<div class="mt-4 grid gap-8 lg:grid-cols-[1.4fr_1fr]">
  <section aria-labelledby="touched">
    <h2 id="touched" class="heading">Geometry as touched off, {unit}</h2>
    <table class="ruled mt-1">
      <thead
        ><tr
          ><th scope="col">Station</th><th scope="col">Tool</th><th scope="col" class="number">X</th><th
            scope="col"
            class="number">Z</th
          ><th scope="col" class="number">Nose radius</th><th scope="col">Tip</th></tr
        ></thead
      >
      <tbody>
        {#each tools as each (each.tool)}
          <tr
            ><th scope="row">{each.station}</th><td>{each.number} {each.name}</td><td class="number"
              >{show(each.x)}</td
            ><td class="number">{show(each.z)}</td><td class="number"
              >{each.noseRadius ? formatLength(each.noseRadius, unit) : '–'}</td
            ><td><abbr class="no-underline" title={tipWords(each.tip)}>{each.tip || '–'}</abbr></td></tr
          >
        {/each}
      </tbody>
    </table>
    <p class="small-words mt-2">
      Nose radius and tip direction must stand in the row wherever a program uses nose radius compensation.
    </p>
  </section>
  <section class="grid content-start gap-4" aria-labelledby="how">
    <h2 id="how" class="heading">How to touch off</h2>
    <ol class="list-decimal pl-5">
      <li>Home the machine. Start the spindle at zero override and raise it slowly.</li>
      <li>
        Face with the rougher and set its Z there as zero. The others touch that face and take nothing off it.
      </li>
      <li>
        Turn the diameter. Back off <b>in Z only</b>, stop, measure with a micrometer, type the measured
        diameter into X.
      </li>
      <li>A parting tool may use the known diameter.</li>
    </ol>
    <svg
      viewBox="0 0 320 130"
      class="w-full max-w-sm"
      role="img"
      aria-label="Back off along Z, away from the chuck, with X kept"
      font-size="12"
      fill="currentColor"
      font-family="var(--font-narrow)"
    >
      <rect x="10" y="20" width="36" height="90" fill="var(--color-base-300)" stroke="currentColor" /><text
        x="14"
        y="14">chuck</text
      >
      <path d="M46 40h150v50H46z" fill="var(--color-base-200)" stroke="currentColor" />
      <path d="M150 40l14-28h20v28z" fill="var(--color-base-100)" stroke="currentColor" />
      <path d="M160 28H270m-9-5l10 5-10 5" fill="none" stroke="currentColor" stroke-width="2.5" /><text
        x="206"
        y="20">Z: yes</text
      >
      <path d="M150 38V4" stroke="var(--color-accent)" stroke-width="2" stroke-dasharray="4 3" /><text
        x="90"
        y="16"
        fill="var(--color-accent)">X: never</text
      >
    </svg>
    <p class="caution text-sm">
      Move in X and the number is lost: the control knows the diameter only while X stands where it cut. The
      chuck’s own speed limit can lie well below the spindle’s. The machine’s manual and the site’s rules come
      first.
    </p>
    <h2 class="heading">Tip directions</h2>
    <svg
      viewBox="-80 -80 160 160"
      class="w-48"
      role="img"
      aria-label="Tip directions 1 to 9 around the nose"
      font-size="15"
      fill="currentColor"
      font-family="var(--font-narrow)"
      text-anchor="middle"
    >
      <circle r="26" fill="var(--color-base-300)" stroke="currentColor" />
      {#each TIP_DIRECTIONS as { number, z, x } (number)}
        <circle cx={z * 26} cy={-x * 26} r="2.6" /><text x={z * 52} y={-x * 52 + 5}>{number}</text>
      {/each}
    </svg>
    <p class="small-words">
      X+ up, Z+ to the right. 3 is an outside tool, 2 a boring bar, both towards the chuck (common practice).
      Controls differ: look in the manual.
    </p>
  </section>
</div>
