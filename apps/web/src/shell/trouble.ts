import { ElMessage } from 'element-plus';

/** Does something and shows the sentence when it is refused. @returns whether it was done. */
export async function attempt(work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    ElMessage({ type: 'error', message: (error as Error).message, duration: 6000, showClose: true });
    return false;
  }
}
