import { called, DOES, plainly, type Timing, unitOf } from './timing'

// Each value that a watch can tell: what the record has, what that decides, and the run that tells it.
export function ToldByAWatch({ values }: { values: Timing['values'] }) {
  return (
    <table aria-label="What the runs tell" className="w-full border-t border-ink">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1.5 [&>th]:pr-2">
          <th>Value</th>
          <th className="text-right">now</th>
          <th>decides</th>
        </tr>
      </thead>
      <tbody>
        {values.map((each) => (
          <tr
            key={each.name}
            className="align-top [&>td]:border-b [&>td]:border-hair [&>td]:py-1 [&>td]:pr-2"
          >
            <td>{called(each.name)}</td>
            <td className="n text-right whitespace-nowrap">
              {plainly(each.now)}
              <span className="block text-small text-ink-3">{unitOf(each.name)}</span>
            </td>
            <td className="text-small text-ink-2">
              {DOES[each.name]?.decides}
              <span className="block text-ink-3">told by {DOES[each.name]?.told}</span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
