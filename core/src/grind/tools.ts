import { requireNotBelow0 } from '../numerics/index.ts';
/** Tools that grind without turning stones. */
export const GRINDING_TOOLS = ['blender', 'mortar', 'hand mill', 'juicer'] as const;

/** One of them. */
export type GrindingTool = (typeof GRINDING_TOOLS)[number];

/** What a tool can come to. */
export interface ToolReach {
  /** Grit it ends at however often it is used, µm. */
  lowUm: number;
  highUm: number;
  /** Passes (or rounds of ten minutes) after which more brings little. */
  passes: number;
  mouth: 'gritty' | 'sandy' | 'rustic';
}

/** What each tool reaches, trade figures: none comes to the 20–30 µm at which a tongue stops feeling grains. */
export const TOOL_REACH: Readonly<Record<GrindingTool, ToolReach>> = {
  blender: { lowUm: 90, highUm: 200, passes: 4, mouth: 'gritty' },
  mortar: { lowUm: 60, highUm: 150, passes: 6, mouth: 'sandy' },
  'hand mill': { lowUm: 60, highUm: 120, passes: 4, mouth: 'sandy' },
  juicer: { lowUm: 45, highUm: 90, passes: 5, mouth: 'rustic' },
};

/** Range of grit after some passes, falling by half of what is left to the tool's reach with each; from about 1 mm of cracked nib. */
export function gritAfterPasses(tool: GrindingTool, passes: number): { lowUm: number; highUm: number } {
  requireNotBelow0(passes, 'the number of passes');
  if (!(passes >= 0)) throw new RangeError('passes are 0 or more');
  const { lowUm, highUm } = TOOL_REACH[tool];
  const left = 0.5 ** passes;
  return { lowUm: lowUm + (1000 - lowUm) * left, highUm: highUm + (1500 - highUm) * left };
}
