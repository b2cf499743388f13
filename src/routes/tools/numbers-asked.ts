/** Numbers of assemblies that a page is asked for, each once: "?numbers=A-101+A-102". */
export const numbersAsked = (url: URL): string[] =>
  [...new Set((url.searchParams.get('numbers') ?? '').split(/[\s,;]+/).filter(Boolean))].slice(0, 200);
