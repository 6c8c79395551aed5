export function toolEnv(url: string): NodeJS.ProcessEnv;
export function runTool(
  program: string,
  args: readonly string[],
  env: NodeJS.ProcessEnv,
): { status: number | null; stdout: string; stderr: string };
