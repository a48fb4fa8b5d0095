import type { Item, PlannedSetup } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'

const SIDES = [
  ['+y', 'back'],
  ['-y', 'front'],
  ['+x', 'right'],
  ['-x', 'left'],
].map(([value, label]) => ({ value: value!, label: label! }))

// The library's record that a setup is held by.
export const itemOf = (held: NonNullable<PlannedSetup['holding']>) =>
  held.kind === 'chuck' ? held.chuck : held.vise

type Props = {
  planned: PlannedSetup
  items: (kind: string) => Item[]
  lathe: boolean
  change: (fields: Record<string, unknown>) => Promise<unknown>
  hold: (item: string) => void
}

// What holds the part: a vise on a mill, a chuck on a lathe.
export function Holding({ planned, items, lathe, change, hold }: Props) {
  const quietly = (fields: Record<string, unknown>) => void change(fields).catch(() => {})
  const held = planned.holding
  const kind = lathe ? 'chuck' : 'vise'
  const options = [
    { value: '', label: 'nothing yet' },
    ...items('holdings')
      .filter((item) => item.data.kind === kind)
      .map((item) => ({ value: item.key, label: String(item.data.name) })),
  ]
  const because = (
    <TextField
      label="Because"
      value={held?.reason ?? ''}
      placeholder="why it is held like this"
      wide="w-48"
      max={200}
      onCommit={(reason) => change({ 'holding.reason': reason })}
    />
  )
  if (lathe) {
    const chuck = held?.kind === 'chuck' ? held : null
    return (
      <>
        <Choice
          label="Chuck"
          labelled={false}
          value={chuck?.chuck ?? ''}
          options={options}
          onChange={hold}
        />
        {chuck && (
          <>
            <Choice
              label="Jaws close"
              value={chuck.grips ?? 'outside'}
              options={[
                { value: 'outside', label: 'from outside' },
                { value: 'inside', label: 'into a bore' },
              ]}
              onChange={(grips) => quietly({ 'holding.grips': grips })}
            />
            <NumberField
              label="Grip"
              value={chuck.grip_mm}
              quantity="length"
              onCommit={(value) => change({ 'holding.grip_mm': value })}
            />
            <NumberField
              label="Each jaw"
              value={chuck.force_per_jaw_n}
              quantity="force"
              onCommit={(value) => change({ 'holding.force_per_jaw_n': value })}
            />
            <NumberField
              label="Never over"
              value={chuck.limit_rpm ?? null}
              quantity="spindle_speed"
              empty="the chuck’s"
              onCommit={(value) => change({ 'holding.limit_rpm': value })}
            />
            <NumberField
              label="Jaw 1 at"
              value={chuck.jaw_angle_deg ?? 0}
              quantity="angle"
              onCommit={(value) => change({ 'holding.jaw_angle_deg': value ?? 0 })}
            />
            {because}
          </>
        )}
      </>
    )
  }
  const vise = held?.kind === 'vise' ? held : null
  return (
    <>
      <Choice
        label="Vise"
        labelled={false}
        value={vise?.vise ?? ''}
        options={options}
        onChange={hold}
      />
      {vise && (
        <>
          <Choice
            label="Fixed jaw"
            value={vise.fixed ?? '+y'}
            options={SIDES}
            onChange={(fixed) => quietly({ 'holding.fixed': fixed })}
          />
          <NumberField
            label="Grip"
            value={vise.grip_depth_mm}
            quantity="length"
            onCommit={(value) => change({ 'holding.grip_depth_mm': value })}
          />
          <NumberField
            label="Torque"
            value={vise.torque_nm}
            quantity="torque"
            onCommit={(value) => change({ 'holding.torque_nm': value })}
          />
          <NumberField
            label="Shift along the jaws"
            value={vise.shift_mm ?? 0}
            quantity="length"
            onCommit={(value) => change({ 'holding.shift_mm': value ?? 0 })}
          />
          {because}
        </>
      )}
    </>
  )
}
