/** The sheet of the benches: eight views that sum or count, linked by one brush. */
export const LINKED_SHEET = `still: 1
report: Linked views
tables:
  calls:
    read: calls.csv
    columns:
      arrived: {type: datetime, read: "%Y-%m-%d %H:%M"}
      alongside: {type: duration, read: "%H:%M:%S"}
controls:
  cargo: {pick: cargo, from: calls, as: checkboxes}
charts:
  waiting: {from: calls, draw: bars, x: "bin(waited, 40)", y: count()}
  total: {from: calls, draw: figure, value: sum(tonnes)}
  average: {from: calls, draw: figure, value: mean(tonnes)}
  by_berth: {from: calls, draw: bars, y: berth, x: sum(tonnes), color: cargo}
  by_cargo: {from: calls, draw: bars, y: cargo, x: count()}
  months: {from: calls, draw: line, x: by_month(arrived), y: sum(tonnes), color: cargo}
  weekdays: {from: calls, draw: bars, x: weekday(arrived), y: count()}
  weights: {from: calls, draw: bars, x: "bin(weight, 30)", y: count()}
  stays: {from: calls, draw: bars, x: "bin(alongside, 30)", y: mean(tonnes)}
links:
  - brush x on waiting -> filter all
`;

/** A crowd of points under the same brush. */
export const POINTS_SHEET = `still: 1
report: Points
tables: {calls: {read: calls.csv}}
charts:
  waiting: {from: calls, draw: bars, x: "bin(waited, 40)", y: count()}
  crowd: {from: calls, draw: points, x: weight, y: tonnes, color: cargo, axes: {x: {scale: log}, y: {scale: log}}}
links:
  - brush x on waiting -> filter crowd
`;

/** Views that cannot be answered by subtraction: medians, boxes, different values, a group below the brush, lists. */
export const MIXED_SHEET = `still: 1
report: Mixed views
tables:
  calls:
    read: calls.csv
    columns:
      alongside: {type: duration, read: "%H:%M:%S"}
  berths:
    from: calls
    steps:
      - group: {by: [berth], get: {n: count(), tonnes: sum(tonnes), middle: median(waited)}}
charts:
  waiting: {from: calls, draw: bars, x: "bin(waited, 40)", y: count()}
  total: {from: calls, draw: figure, value: sum(tonnes)}
  middles: {from: calls, draw: bars, y: berth, x: median(alongside)}
  spread: {from: calls, draw: boxes, y: cargo, x: weight}
  kinds: {from: calls, draw: bars, y: cargo, x: distinct(vessel)}
  groups: {from: berths, draw: table, columns: [berth, n, tonnes, middle]}
  list: {from: calls, draw: table, columns: [vessel, berth, cargo, tonnes]}
links:
  - brush x on waiting -> filter all
`;
