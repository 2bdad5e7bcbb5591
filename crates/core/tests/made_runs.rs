//! Runs whose plateau is known: what is left when the rule stops them, whatever the interval of readings.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::truth::runs::told;

#[test]
fn little_is_left_whatever_the_interval_of_readings() {
    for minutes in [10.0, 15.0, 20.0, 30.0] {
        let (left, done, _) = told(minutes, (0.8, 3.0), (0.0, 0.5), 150);
        assert!(left < 3.5, "every {minutes} minutes {left:.1} points are left");
        assert!(done > 60.0, "every {minutes} minutes the rule ends {done:.0} %");
    }
}

#[test]
fn cells_that_start_late_are_waited_for() {
    for minutes in [15.0, 30.0] {
        let (left, _, earliest) = told(minutes, (0.8, 2.0), (2.0, 3.0), 150);
        assert!(earliest > 3.0, "done at {earliest} h");
        assert!(left < 3.5, "every {minutes} minutes {left:.1} points are left");
    }
}

#[test]
fn slow_cells_reach_the_cap() {
    let (left, done, _) = told(30.0, (4.5, 5.5), (0.0, 0.3), 100);
    assert!(done < 50.0, "{done:.0} % were ended by the rule");
    assert!(left < 10.5, "{left:.1} points are left of those");
}
