/** Files that can be looked at again without being asked for, where the browser has them. */
interface Picker {
  readonly showOpenFilePicker?: (options: { multiple: false }) => Promise<FileSystemFileHandle[]>;
}

export const canWatch = (): boolean => (globalThis as Picker).showOpenFilePicker !== undefined;

/** The file that somebody chooses; null when none is chosen. */
export async function fileToWatch(): Promise<FileSystemFileHandle | null> {
  try {
    const [handle] = (await (globalThis as Picker).showOpenFilePicker?.({ multiple: false })) ?? [];
    return handle ?? null;
  } catch {
    // Nothing was chosen.
    return null;
  }
}
