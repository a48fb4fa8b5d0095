import { Component, type ReactNode } from 'react'

// What is said where there is no 3D surface, or the solid can't be loaded.
export class NoDrawing extends Component<{ children: ReactNode }, { broken: boolean }> {
  state = { broken: false }
  static getDerivedStateFromError() {
    return { broken: true }
  }
  render() {
    if (!this.state.broken) return this.props.children
    return (
      <p className="p-6 text-ink-2">
        The drawing can’t be shown here: this browser gives no 3D surface, or the solid could not be
        loaded. Figures and findings beside it are complete.
      </p>
    )
  }
}
