export type PriceFrom = { from_so_many: number; price: number }

// Prices as they are typed, "20: 4, 50: 3.50": a piece costs so much where so many or more are ordered.
export function written(breaks: PriceFrom[]): string {
  return breaks.map((each) => `${each.from_so_many}: ${each.price}`).join(', ')
}

export function read(text: string): PriceFrom[] {
  return text
    .split(/[,;]/)
    .map((each) => each.trim())
    .filter(Boolean)
    .map((each) => {
      const found = /^(\d+(?:\.\d+)?)\s*:\s*(\d+(?:\.\d+)?)$/.exec(each)
      if (!found)
        throw new Error(
          `“${each}” is no price: write from how many on and what one costs, as 20: 4`,
        )
      return { from_so_many: Number(found[1]), price: Number(found[2]) }
    })
}
