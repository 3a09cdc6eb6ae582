export async function scanCommand(a: string[]) { return 1; }
