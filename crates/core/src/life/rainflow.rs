//! Rainflow counting (ASTM E1049): the cycles that a state of charge went through, small ones within large ones.

/// A range that was gone through, and how often: 1 for a whole cycle, 0.5 for half of one.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CountedCycle {
    /// From its highest to its lowest, in the unit of the series.
    pub range: f64,
    /// Of the middle between the two.
    pub mean: f64,
    /// 1 or 0.5.
    pub count: f64,
}

/// Highs and lows of a series, with its first and last value.
fn turns(series: &[f64]) -> Vec<f64> {
    let mut all: Vec<f64> = Vec::new();
    for own in series.iter().copied().filter(|own| own.is_finite()) {
        match all.as_slice() {
            [.., last] if (own - last).abs() <= f64::EPSILON => {}
            // It goes on the way it went: the last value was no turn.
            [.., before, last] if (last - before) * (own - last) > 0.0 => {
                all.pop();
                all.push(own);
            }
            _ => all.push(own),
        }
    }
    all
}

/// Counts the cycles of a series by rainflow (ASTM E1049-85, 5.4.4, from memory). Values that are no number are left out.
pub fn rainflow(series: &[f64]) -> Vec<CountedCycle> {
    let counted =
        |a: f64, b: f64, count| CountedCycle { range: (a - b).abs(), mean: f64::midpoint(a, b), count };
    let (mut open, mut all): (Vec<f64>, Vec<CountedCycle>) = (Vec::new(), Vec::new());
    for turn in turns(series) {
        open.push(turn);
        while let [.., a, b, c] = open.as_slice() {
            let (a, b, c) = (*a, *b, *c);
            if (c - b).abs() < (b - a).abs() {
                break;
            }
            if open.len() == 3 {
                all.push(counted(a, b, 0.5));
                open.remove(0);
            } else {
                all.push(counted(a, b, 1.0));
                open.truncate(open.len() - 3);
                open.push(c);
            }
        }
    }
    all.extend(open.windows(2).map(|pair| counted(pair[0], pair[1], 0.5)));
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    fn by_range(series: &[f64]) -> BTreeMap<String, f64> {
        let mut all = BTreeMap::new();
        for own in rainflow(series) {
            *all.entry(format!("{:.0}", own.range)).or_insert(0.0) += own.count;
        }
        all
    }

    /// The worked example of ASTM E1049-85, figure 6 (from memory).
    #[test]
    fn the_standard_s_own_example_is_counted_as_it_counts_it() {
        let own = by_range(&[-2.0, 1.0, -3.0, 5.0, -1.0, 3.0, -4.0, 4.0, -2.0]);
        let told = [("3", 0.5), ("4", 1.5), ("6", 0.5), ("8", 1.0), ("9", 0.5)];
        assert_eq!(own, told.into_iter().map(|(range, count)| (range.to_owned(), count)).collect());
    }

    #[test]
    fn a_series_that_stands_or_only_falls_has_no_whole_cycle() {
        assert!(rainflow(&[]).is_empty() && rainflow(&[50.0, 50.0, 50.0]).is_empty());
        assert_eq!(by_range(&[90.0, 70.0, 40.0]), BTreeMap::from([("50".to_owned(), 0.5)]));
        assert_eq!(rainflow(&[1.0, f64::NAN, 2.0]).len(), 1);
    }

    proptest! {
        /// Every way up or down is counted once: the ranges, each as often as it is counted, make half of all the way.
        #[test]
        fn all_of_the_way_is_counted(series in proptest::collection::vec(-100.0..100.0f64, 2..60)) {
            let way: f64 = series.windows(2).map(|p| (p[1] - p[0]).abs()).sum();
            let counted: f64 = rainflow(&series).iter().map(|own| 2.0 * own.count * own.range).sum();
            prop_assert!((way - counted).abs() < 1e-6 * way.max(1.0), "{way} {counted}");
        }

        #[test]
        fn no_range_is_greater_than_the_whole(series in proptest::collection::vec(0.0..100.0f64, 2..60)) {
            let (low, high) = series.iter().fold((f64::MAX, f64::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
            prop_assert!(rainflow(&series).iter().all(|own| own.range <= high - low + 1e-9));
        }
    }
}
