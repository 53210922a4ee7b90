import { component, start } from "../shared/alpine";

/** A title that turns into a field when it is to be renamed. */
const rename = () =>
  component({
    editing: false,

    edit() {
      this.editing = true;
      this.$nextTick(() => (this.$refs["name"] as HTMLInputElement).select());
    },

    leave() {
      this.editing = false;
    },
  });

start({ rename });
