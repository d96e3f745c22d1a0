"use client";
import { Component, type ReactNode } from "react";

/**
 * Keeps a text that breaks while it is drawn from taking the page with it: it is shown plain
 * instead.
 */
export class ShownPlain extends Component<
  { plain: ReactNode; children: ReactNode },
  { broken: boolean }
> {
  state = { broken: false };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  render() {
    return this.state.broken ? this.props.plain : this.props.children;
  }
}
