//! Records of several sources of one bank, as one.

use super::MinuteRow;
use super::span::step;

/// What `first` does not tell is taken from `second`; a row of the second goes to the row of the first that it falls into.
/// Both are the oldest first.
pub fn together(first: Vec<MinuteRow>, second: Vec<MinuteRow>) -> Vec<MinuteRow> {
    if first.is_empty() || second.is_empty() {
        return if first.is_empty() { second } else { first };
    }
    let step = step(&first);
    let mut all: Vec<MinuteRow> = Vec::with_capacity(first.len().max(second.len()));
    let mut first = first.into_iter().peekable();
    // Where the row of the first that lasts until now stands.
    let mut lasts: Option<(usize, i64)> = None;
    for own in second {
        while let Some(row) = first.next_if(|row| row.minute <= own.minute) {
            lasts = Some((all.len(), row.minute + step));
            all.push(row);
        }
        match lasts.filter(|(_, until)| own.minute < *until) {
            Some((at, _)) => {
                let row = &mut all[at];
                row.volts = row.volts.or(own.volts);
                row.amperes = row.amperes.or(own.amperes);
                row.celsius = row.celsius.or(own.celsius);
                row.state = own.state.or(row.state);
            }
            None => all.push(own),
        }
    }
    all.extend(first);
    all
}
