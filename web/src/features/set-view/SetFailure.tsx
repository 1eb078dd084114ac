import { Component, type ReactNode } from "react";
import { stage } from "../../stores/stage";
import { EmptySet } from "./EmptySet";

/** When a set cannot be loaded, shows a message and the empty ground instead. */
export class SetFailure extends Component<{ children: ReactNode }, { failed: boolean }> {
  state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  componentDidMount() {
    stage.setState({ setProblem: null });
  }

  componentDidCatch() {
    stage.setState({ setProblem: "The set cannot be loaded; you can go on working without it." });
  }

  render() {
    return this.state.failed ? <EmptySet /> : this.props.children;
  }
}
