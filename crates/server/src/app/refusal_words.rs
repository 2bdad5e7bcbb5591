//! What a refusal of the database says to the person it happens to, and what to do.

use crate::db::{DbError, WrittenDown};
use crate::words;

/// "2 visits".
fn counted(kind: WrittenDown, count: u32) -> String {
    let (one, several) = match kind {
        WrittenDown::Round => ("round", "rounds"),
        WrittenDown::Visit => ("visit", "visits"),
        WrittenDown::Run => ("run of an equalize", "runs of an equalize"),
        WrittenDown::Change => ("change of a battery", "changes of batteries"),
        WrittenDown::Record => ("file of a monitor", "files of a monitor"),
        WrittenDown::Plan => ("kept plan", "kept plans"),
        WrittenDown::Reminder => ("reminder", "reminders"),
    };
    format!("{count} {}", if count == 1 { one } else { several })
}

/// Why something was not stored or not found, as a sentence without its full stop.
pub fn said(error: &DbError) -> String {
    match error {
        DbError::NotFound { what, id } => format!("there is no {what} with the id {id}"),
        DbError::OtherBody { what, id } => {
            format!(
                "the {what} {id} is already stored with other contents; make a new id for a new \
             {what}"
            )
        }
        DbError::ChangedSince { what, .. } => format!(
            "somebody else changed this {what} while you did; look at it as it stands now, then \
             change it again"
        ),
        DbError::VersionNeeded { what } => format!("say which version of this {what} you saw: send If-Match"),
        DbError::Archived => {
            "this bank is archived and takes nothing; restore it first, under More on its page".into()
        }
        DbError::VisitClosed { by, at, zone } => format!(
            "{by} closed this visit on {}, and its report is kept as it was; open the visit \
             again, or begin one of your own, and write this down there",
            words::minute(*at, zone)
        ),
        DbError::RoundOpen { by, read, .. } => format!(
            "a round by {by} is still open on this visit, with {read} cells read; finish it \
             first, so that the report has it"
        ),
        DbError::DischargeOn { .. } => {
            "a timed discharge of this visit is on; switch the load off and end it first, under Load tests"
                .into()
        }
        DbError::WrittenDown { of } => {
            let said: Vec<String> = of.iter().map(|(kind, count)| counted(*kind, *count)).collect();
            format!("written down of this bank: {}; such a bank is archived, not deleted", said.join(", "))
        }
        DbError::VisitOpen { by, since, zone, .. } => format!(
            "a visit by {by} is open on this bank since {}; take that one up or close it first",
            words::minute(*since, zone)
        ),
        DbError::RunOpen { by, since, zone, .. } => format!(
            "a run by {by} is under way on this bank since {}; take that one up or stop it first",
            words::minute(*since, zone)
        ),
        DbError::VisitHolds { things } => {
            format!("{things} things are written down on this visit; it is closed, not thrown away")
        }
        DbError::TooManyPhotos { most } => {
            format!("this visit has {most} photographs, as many as one visit takes; take some out first")
        }
        DbError::ChangeTooEarly { since } => format!(
            "the battery that stands there came on {since}; a change is of a later day, or undo \
             that one first"
        ),
        DbError::ReadSince { battery, last } => {
            format!("something was written down at {battery} on {last}; a change is of that day or later")
        }
        DbError::StoodElsewhere { bank, until } => {
            format!("that battery stood in {bank} until {until}; a change is of that day or later")
        }
        DbError::NotOnShelf => {
            "that battery is not on the shelf; choose one that was taken out and stands nowhere, \
             or a new one"
                .into()
        }
        DbError::OtherCells { cells, wanted } => {
            format!("that battery has {cells} cells and the places of this bank are for {wanted}")
        }
        DbError::StandsElsewhere { bank } => {
            format!("the battery that stood there stands in {bank} by now; undo that change first")
        }
        DbError::NotTheLastChange => "a later change of this bank stands; undo that one first".into(),
        DbError::BlockHasReadings { battery } => format!(
            "the battery now at {battery} has readings of its own; a change with readings is not \
             undone"
        ),
        DbError::ReadOnly { what } => {
            format!("{what} ships with the application and cannot be changed; copy it under a new id")
        }
        DbError::NoSuchPlace { bank, address } => format!("bank {bank} has no {address}"),
        DbError::DiskFull
        | DbError::Busy
        | DbError::BadRow { .. }
        | DbError::BadDerived { .. }
        | DbError::Files(_)
        | DbError::Sqlite(_)
        | DbError::Crashed => error.to_string(),
    }
}
