import { json } from '@sveltejs/kit';

/** One page of a long list, from a place in it. */
export async function listPage<T>(
  url: URL,
  find: (words: string, from: number) => Promise<T[]>,
): Promise<Response> {
  const from = Number(url.searchParams.get('from'));
  if (!Number.isInteger(from) || from < 0 || from > 1_000_000) return json([], { status: 400 });
  return json(await find((url.searchParams.get('words') ?? '').slice(0, 100), from));
}
