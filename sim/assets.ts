/** The tools of a machine as its agent tells them: cutting-tool assets of the open standard. */

/** A tool as the control holds it when it is switched on: gauge length in mm, life in units of its basis (minutes in thousandths of a second). */
export interface Cutter {
  tool: number;
  number: string;
  length: number;
  basis: 'pieces' | 'holes' | 'minutes' | null;
  left: number | null;
  limit: number | null;
  /** The pocket that it stands in, 0 the spindle. */
  pocket?: number;
  /** What a part takes of it. */
  use: number;
}

/** An edge grows shorter by this for each part, in mm. */
const WORN = 0.0002;
const PER_UNIT = { pieces: 1, holes: 1, minutes: 60_000 } as const;

/** A tool with the parts that it cut since the control was switched on. */
type Used = Cutter & { parts: number };

function cuttingTool(name: string, { parts, ...cutter }: Used, at: Date): string {
  // pieces and holes are counted up or down in parts; only time is counted as time
  const life =
    cutter.basis === null
      ? ''
      : `<ToolLife type="${cutter.basis === 'minutes' ? 'MINUTES' : 'PART_COUNT'}" countDirection="DOWN" initial="${cutter.limit! / PER_UNIT[cutter.basis]}" limit="0">${((cutter.left! - parts * cutter.use) / PER_UNIT[cutter.basis]).toFixed(cutter.basis === 'minutes' ? 3 : 0)}</ToolLife>`;
  return `
    <CuttingTool serialNumber="${cutter.number}" toolId="${cutter.number}" assetId="${name}-${cutter.tool}" timestamp="${at.toISOString()}">
      <CuttingToolLifeCycle>
        <CutterStatus><Status>USED</Status></CutterStatus>
        <ProgramToolNumber>${cutter.tool}</ProgramToolNumber>
        ${cutter.pocket === undefined ? '' : cutter.pocket === 0 ? '<Location type="SPINDLE"/>' : `<Location type="POT">${cutter.pocket}</Location>`}
        ${life}
        <Measurements><FunctionalLength code="LF" nominal="${cutter.length}" units="MILLIMETER">${(cutter.length - parts * WORN).toFixed(4)}</FunctionalLength></Measurements>
      </CuttingToolLifeCycle>
    </CuttingTool>`;
}

export const assets = (
  name: string,
  cutters: readonly Used[],
  at: Date,
) => `<?xml version="1.0" encoding="UTF-8"?>
<MTConnectAssets xmlns="urn:mtconnect.org:MTConnectAssets:1.3">
  <Header creationTime="${at.toISOString()}" sender="${name}" instanceId="1" version="1.3" assetBufferSize="1024" assetCount="${cutters.length}"/>
  <Assets>${cutters.map((cutter) => cuttingTool(name, cutter, at)).join('')}
  </Assets>
</MTConnectAssets>
`;
