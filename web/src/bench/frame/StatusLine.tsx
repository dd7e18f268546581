import { fixed } from '@ivory/core/math'
import clsx from 'clsx'
import { lathe } from '../../engine'
import { refresh } from '../../session/rebuilding'
import { useSession } from '../../session/session'

const SAVE: Record<string, string> = {
  saved: 'saved on this browser',
  saving: 'saving…',
  failed: 'not saved',
  conflict: 'changed in another tab',
}

/** What the pointer is on, the unit, the lathe's state and whether the work is saved. */
export function StatusLine() {
  const {
    hover,
    building: busy,
    reached,
    broken,
    save,
    saveWord,
    view,
    doc,
    picking,
  } = useSession()
  const building = busy && (doc?.route.length ?? 0) > 0
  const waits = (view?.waits ?? 0) > 0
  const failed = view?.reports.filter((r) => r.status === 'fail').length ?? 0
  const stopped = view?.reports.some((r) =>
    // Whoever stopped it, and with what words: the code is one.
    r.diagnoses.some((d) => d.code === 'kernel-stopped'),
  )
  return (
    <footer
      className="flex items-center gap-6 border-rule border-t bg-paper px-3 py-0.5 text-sm"
      aria-label="Status"
    >
      <span className="min-w-0 flex-1 truncate" data-testid="hover">
        {hover ||
          (picking
            ? `Pick ${picking.what === 'vertices' ? 'corners' : picking.what} on the model or the section; pick again to take out.`
            : 'Ctrl K finds any command.')}
      </span>
      <span className="text-soft">{doc?.unit}</span>
      {waits ? (
        // It stays while the lathe works on what the kernel made: jobs come one after another.
        <button
          type="button"
          className="text-brass underline"
          onClick={() => void lathe.call('stopKernel', null)}
        >
          Stop the kernel
        </button>
      ) : (
        building && (
          <button
            type="button"
            className="text-brass underline"
            onClick={() => lathe.stop('Stopped as asked.')}
          >
            Stop
          </button>
        )
      )}
      {stopped && (
        <button
          type="button"
          className="text-brass underline"
          onClick={() => void lathe.call('retry', null).then(refresh)}
        >
          Try again
        </button>
      )}
      <span
        // Of one width, so that what stands beside it keeps its place.
        className={clsx('w-52 truncate text-right', broken || failed ? 'text-out' : 'text-soft')}
        title={broken}
        data-testid="lathe-state"
      >
        {broken ||
          (building
            ? reached > 0
              ? `rebuilding, at op ${reached}…`
              : 'rebuilding…'
            : failed > 0
              ? `${failed} ${failed === 1 ? 'op fails' : 'ops fail'}`
              : view && doc?.route.length === 0
                ? 'nothing on the route yet'
                : waits
                  ? 'the exact kernel is at work…'
                  : view
                    ? `rebuilt in ${view.ms < 10 ? fixed(view.ms, 1) : Math.round(view.ms)} ms`
                    : 'starting…')}
      </span>
      <span
        className={save === 'saved' || save === 'saving' ? 'text-soft' : 'text-out'}
        title={saveWord}
        data-testid="save-state"
      >
        {SAVE[save]}
      </span>
    </footer>
  )
}
