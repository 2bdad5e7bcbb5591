//! Straight lines between the rows of a published table.

/// Value at `x` on rows sorted by rising x; outside the rows the outermost line goes on.
pub(crate) fn line<const N: usize>(rows: &[[f64; N]], column: usize, x: f64) -> f64 {
    let last = rows.len() - 2;
    let i = rows.iter().skip(1).position(|row| x <= row[0]).unwrap_or(last).min(last);
    let (low, high) = (&rows[i], &rows[i + 1]);
    low[column] + (high[column] - low[column]) * (x - low[0]) / (high[0] - low[0])
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn rows_are_met_exactly_and_the_ends_go_on() {
        let rows = [[0.0, 1.0], [10.0, 3.0], [20.0, 4.0]];
        for (x, y) in [(0.0, 1.0), (10.0, 3.0), (20.0, 4.0), (5.0, 2.0), (-5.0, 0.0), (30.0, 5.0)] {
            assert!((line(&rows, 1, x) - y).abs() < 1e-12, "{x}");
        }
    }
}
