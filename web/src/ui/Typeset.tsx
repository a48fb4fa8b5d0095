// A formula's line with its indices and powers set as they are written by hand: kc1.1·h^(−mc) and the like.
const INDEXED = /^(k|v|f|a|P|F|h|D|R|T|r|n|c)(c1\.1|c0|cap|max|z|e|p|c|f|m|n|t|r|w|o|i|0)$/
const TOKEN = /(\^\([^)]*\)|\^[^\s·/()]+|kc1\.1|[A-Za-zΑ-ω]+[0-9]*|[^A-Za-zΑ-ω^]+|\^)/g

export function Typeset({ line }: { line: string }) {
  const tokens = line.match(TOKEN) ?? [line]
  return (
    <span className="n text-lead">
      {tokens.map((token, k) => {
        if (token.startsWith('^'))
          return (
            <sup key={k} className="text-[0.72em]">
              {token.slice(1).replace(/^\(|\)$/g, '')}
            </sup>
          )
        const found = INDEXED.exec(token)
        return found ? (
          <span key={k}>
            {found[1]}
            <sub className="text-[0.72em]">{found[2]}</sub>
          </span>
        ) : (
          <span key={k}>{token}</span>
        )
      })}
    </span>
  )
}
