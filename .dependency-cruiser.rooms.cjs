const { options } = require("./.dependency-cruiser.cjs");

/** No two rooms import each other, nor do several in a ring, types included. Tests stand above all rooms, and are left out. */
module.exports = {
  forbidden: [
    {
      name: "one-way-between-rooms",
      scope: "folder",
      severity: "error",
      comment: "Rooms know each other in one direction: move what both need to a room below.",
      from: {},
      to: { circular: true },
    },
  ],
  options: { ...options, exclude: { path: `${options.exclude.path}|\\.test\\.tsx?$|/testing/` } },
};
