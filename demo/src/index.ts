import { checkWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import batterScoop from '../set/batter-scoop.lathe.json'
import blockShoe from '../set/block-shoe.lathe.json'
import counterClip from '../set/counter-clip.lathe.json'
import cutleryDrainer from '../set/cutlery-drainer.lathe.json'
import eggCup from '../set/egg-cup.lathe.json'
import garlicKeeper from '../set/garlic-keeper.lathe.json'
import honeyDipper from '../set/honey-dipper.lathe.json'
import kettleShoulder from '../set/kettle-shoulder.lathe.json'
import lidClipFoot from '../set/lid-clip-foot.lathe.json'
import millGrip from '../set/mill-grip.lathe.json'
import mixingBowl from '../set/mixing-bowl.lathe.json'
import napkinCoil from '../set/napkin-coil.lathe.json'
import oilCruet from '../set/oil-cruet.lathe.json'
import pepperMillTop from '../set/pepper-mill-top.lathe.json'
import pipingTube from '../set/piping-tube.lathe.json'
import probePlug from '../set/probe-plug.lathe.json'
import servingBoard from '../set/serving-board.lathe.json'
import timerDial from '../set/timer-dial.lathe.json'
import trivetWire from '../set/trivet-wire.lathe.json'
import utensilCrock from '../set/utensil-crock.lathe.json'
import boxWithLid from '../starts/box-with-lid.lathe.json'
import cagePot from '../starts/cage-pot.lathe.json'
import sweptHook from '../starts/swept-hook.lathe.json'
import turnedVessel from '../starts/turned-vessel.lathe.json'

/** The Saltmarsh Counter Set: kitchen goods of a made-up studio. The cruet comes first. */
export function demoSet(): Workpiece[] {
  return [
    oilCruet,
    mixingBowl,
    eggCup,
    pepperMillTop,
    batterScoop,
    counterClip,
    timerDial,
    cutleryDrainer,
    millGrip,
    trivetWire,
    napkinCoil,
    probePlug,
    blockShoe,
    honeyDipper,
    servingBoard,
    pipingTube,
    utensilCrock,
    kettleShoulder,
    garlicKeeper,
    lidClipFoot,
  ].map(checked)
}

/** Small pieces to start from, one of each way a body is made, their sizes figures. */
export const startingPieces = (): Workpiece[] =>
  [turnedVessel, boxWithLid, cagePot, sweptHook].map(checked)

function checked(doc: unknown): Workpiece {
  const read = checkWorkpiece(doc)
  if (!read.ok) throw new Error(read.diagnosis.message)
  return read.value
}
