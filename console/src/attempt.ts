import { ElMessage } from 'element-plus'
import { t } from './i18n'

/** Does something and shows why it failed; what was typed stays. */
export async function attempt<T>(work: () => Promise<T>, good = ''): Promise<T | undefined> {
  try {
    const out = await work()
    if (good) ElMessage.success(good)
    return out
  } catch (e) {
    if (e === 'cancel' || e === 'close') return undefined
    ElMessage.error({ message: t((e as Error).message), duration: 8000, showClose: true })
    return undefined
  }
}
