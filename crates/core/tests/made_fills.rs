//! Banks that drink by a known rate: the range of a forecast holds as often as it says.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::truth::water::{Logged, shares};

#[test]
fn the_range_holds_as_often_as_it_says_whatever_is_logged() {
    for logged in [
        Logged::ByCell,
        Logged::Totals,
        Logged::SeasonalWithClimate,
        Logged::SeasonalWithout,
        Logged::Growing,
    ] {
        let (within, before) = shares(40_000..40_400, logged);
        assert!((78.0..=92.0).contains(&within), "{logged:?}: {within:.1} % within P10 to P90");
        assert!((3.0..=13.0).contains(&before), "{logged:?}: {before:.1} % dry before P10");
    }
}
