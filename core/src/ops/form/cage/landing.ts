import { formJob, jobKey } from '../../../exact'
import { bad, good, type Outcome } from '../../../math'
import type { TriMesh } from '../../../mesh'
import { solidMesh, turnedJob } from '../../../turned'
import type { Body, OpContext } from '../../state'

/** The most that triangles something is laid onto turn from one to the next, rad. */
const FINE = 0.1

/** What a body is by its shape, whatever route made it. */
export const landKey = (body: Body | undefined): string | undefined =>
  body?.shape.kind === 'turned' ? jobKey(turnedJob(body.shape.turned)) : body?.shape.key

/** The triangles of a body within `chord` mm, for a cage to be laid onto. */
export function landOf(id: string, chord: number, ctx: OpContext): Outcome<TriMesh> {
  const body = ctx.body(id)
  if (!body)
    return bad(
      'no-body',
      'Choose the body it is laid onto; it must come earlier in the route and stand there still.',
    )
  const { shape } = body
  if (shape.kind === 'turned')
    return good(
      ctx.once(`land ${landKey(body)} ${chord}`, () =>
        solidMesh(shape.turned, { chord, angle: FINE }),
      ) as TriMesh,
    )
  if (shape.kind === 'mesh') return good(shape.mesh)
  const read = ctx.kernel(formJob(shape.key, { seams: false, ribbons: [], skin: chord }))
  return read.ok ? good(read.value[0]!.form!.skin!) : read
}
