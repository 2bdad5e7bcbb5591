//! What can go wrong in the database, in the caller's terms.

use thiserror::Error;

/// A kind of thing that is written down of a bank.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WrittenDown {
    /// A round with a reading.
    Round,
    /// A visit that is closed, or in which something is written down.
    Visit,
    /// A run of an equalize.
    Run,
    /// A battery that was replaced or moved.
    Change,
    /// A file of a monitor that was read to its end.
    Record,
    /// A plan that stands.
    Plan,
    /// A reminder.
    Reminder,
}

/// Why a read or write failed.
#[derive(Debug, Error)]
pub enum DbError {
    /// No row of that id.
    #[error("no {what} {id}")]
    NotFound {
        /// Kind of thing.
        what: &'static str,
        /// The id.
        id: String,
    },
    /// The id is taken by something else.
    #[error("{what} {id} has another body")]
    OtherBody {
        /// Kind of thing.
        what: &'static str,
        /// The id.
        id: String,
    },
    /// Somebody else changed it since it was looked at.
    #[error("{what} changed since")]
    ChangedSince {
        /// Kind of thing.
        what: &'static str,
        /// The state that stands.
        theirs: Box<serde_json::Value>,
    },
    /// A shared thing is changed by whoever says which version he saw.
    #[error("no version of {what} given")]
    VersionNeeded {
        /// Kind of thing.
        what: &'static str,
    },
    /// An archived bank takes nothing.
    #[error("bank archived")]
    Archived,
    /// A closed visit takes nothing.
    #[error("visit closed by {by}")]
    VisitClosed {
        /// Who closed it.
        by: String,
        /// When.
        at: jiff::Timestamp,
        /// Zone of the site.
        zone: String,
    },
    /// A visit is closed when its round is.
    #[error("round {round} open, {read} cells")]
    RoundOpen {
        /// The round.
        round: String,
        /// Who reads.
        by: String,
        /// Cells read.
        read: u32,
    },
    /// Nobody leaves while the load is on.
    #[error("a discharge is on at visit {visit}")]
    DischargeOn {
        /// The visit.
        visit: String,
    },
    /// A bank of which something is written down is archived, not deleted.
    #[error("something is written down of this bank")]
    WrittenDown {
        /// How much of what.
        of: Vec<(WrittenDown, u32)>,
    },
    /// A bank has one open visit at most.
    #[error("visit {visit} open")]
    VisitOpen {
        /// The open visit.
        visit: String,
        /// Who opened it.
        by: String,
        /// When.
        since: jiff::Timestamp,
        /// Zone of the site.
        zone: String,
    },
    /// A bank has one run at most that is not over.
    #[error("run {run} open")]
    RunOpen {
        /// The run.
        run: String,
        /// Who stays with it.
        by: String,
        /// When it was opened.
        since: jiff::Timestamp,
        /// Zone of the site.
        zone: String,
    },
    /// A visit in which something is written down is closed, not thrown away.
    #[error("visit holds {things} entries")]
    VisitHolds {
        /// How many.
        things: u32,
    },
    /// A visit holds as many photographs as anybody will look at.
    #[error("more than {most} photographs")]
    TooManyPhotos {
        /// How many.
        most: u32,
    },
    /// A change dated before the last one at that place.
    #[error("placement since {since}")]
    ChangeTooEarly {
        /// Day the present one came.
        since: String,
    },
    /// A change dated before readings of the battery that leaves.
    #[error("{battery} read on {last}")]
    ReadSince {
        /// The place.
        battery: String,
        /// The last day, as said.
        last: String,
    },
    /// A battery that came from the shelf before it got there.
    #[error("block stood in {bank} until {until}")]
    StoodElsewhere {
        /// Where.
        bank: String,
        /// Day it left, as said.
        until: String,
    },
    /// A battery that is not on the shelf.
    #[error("block not on the shelf")]
    NotOnShelf,
    /// A battery with another number of cells.
    #[error("block of {cells} cells, not {wanted}")]
    OtherCells {
        /// Its cells.
        cells: u8,
        /// Cells of a battery of the bank.
        wanted: u8,
    },
    /// The old one stands in another bank meanwhile.
    #[error("block stands in {bank}")]
    StandsElsewhere {
        /// Where.
        bank: String,
    },
    /// Only the last change can be undone.
    #[error("not the last change")]
    NotTheLastChange,
    /// A new battery that was read already.
    #[error("block at {battery} has readings")]
    BlockHasReadings {
        /// The place.
        battery: String,
    },
    /// A thing that ships is read-only.
    #[error("{what} is read-only")]
    ReadOnly {
        /// Kind of thing.
        what: &'static str,
    },
    /// The bank has no such cell or battery.
    #[error("bank {bank} has no {address}")]
    NoSuchPlace {
        /// Name of the bank.
        bank: String,
        /// The address.
        address: String,
    },
    /// A row in the file is not what this version writes.
    #[error("the database holds a {what} that cannot be read: {why}")]
    BadRow {
        /// Kind of thing.
        what: &'static str,
        /// Why.
        why: String,
    },
    /// A derived row is not what this version writes; it can be derived anew.
    #[error("the database holds a {what} of bank {bank} that cannot be read: {why}")]
    BadDerived {
        /// Kind of thing.
        what: &'static str,
        /// The bank it is derived of.
        bank: String,
        /// Why.
        why: String,
    },
    /// The disk is full.
    #[error("not saved: the disk of this device is full")]
    DiskFull,
    /// Somebody else writes for longer than anybody waits.
    #[error("the database is busy with another write; try again in a moment")]
    Busy,
    /// A file beside the database.
    #[error("a file of the data folder failed: {0}")]
    Files(std::io::Error),
    /// SQLite.
    #[error("the database failed: {0}")]
    Sqlite(rusqlite::Error),
    /// A worker thread died.
    #[error("the database worker stopped; try again")]
    Crashed,
}

impl From<rusqlite::Error> for DbError {
    fn from(error: rusqlite::Error) -> Self {
        if matches!(&error, rusqlite::Error::SqliteFailure(_, Some(said)) if said == "bank archived") {
            return Self::Archived;
        }
        match error.sqlite_error_code() {
            Some(rusqlite::ErrorCode::DiskFull) => Self::DiskFull,
            Some(rusqlite::ErrorCode::DatabaseBusy | rusqlite::ErrorCode::DatabaseLocked) => Self::Busy,
            _ => Self::Sqlite(error),
        }
    }
}

impl From<std::io::Error> for DbError {
    fn from(error: std::io::Error) -> Self {
        match error.kind() {
            std::io::ErrorKind::StorageFull | std::io::ErrorKind::QuotaExceeded => Self::DiskFull,
            _ => Self::Files(error),
        }
    }
}

impl DbError {
    /// What a constraint of the database says against a row; none for any other fault.
    pub fn contradiction(&self) -> Option<&str> {
        match self {
            Self::Sqlite(rusqlite::Error::SqliteFailure(e, said))
                if e.code == rusqlite::ErrorCode::ConstraintViolation =>
            {
                Some(said.as_deref().unwrap_or_default())
            }
            _ => None,
        }
    }

    /// True when the disk or the database file takes no more writes, though it may still be read.
    pub fn is_of_storage(&self) -> bool {
        match self {
            Self::DiskFull | Self::Files(_) => true,
            Self::Sqlite(error) => matches!(
                error.sqlite_error_code(),
                Some(rusqlite::ErrorCode::SystemIoFailure | rusqlite::ErrorCode::ReadOnly)
            ),
            _ => false,
        }
    }
}

/// "No row" becomes [`DbError::NotFound`], in this one place.
pub(super) fn found<T>(row: Option<T>, what: &'static str, id: &str) -> Result<T, DbError> {
    row.ok_or_else(|| DbError::NotFound { what, id: id.to_owned() })
}

/// A JSON column back into its type, by the same constructors as user input.
pub(super) fn from_json<T: serde::de::DeserializeOwned>(
    what: &'static str,
    text: &str,
) -> Result<T, DbError> {
    serde_json::from_str(text).map_err(|e| DbError::BadRow { what, why: e.to_string() })
}

/// A word as it stands in the JSON of an enumeration, from its column.
pub(super) fn from_word<T: serde::de::DeserializeOwned>(
    what: &'static str,
    word: String,
) -> Result<T, DbError> {
    serde_json::from_value(word.into()).map_err(|e| DbError::BadRow { what, why: e.to_string() })
}

/// A type into its JSON column.
pub(super) fn to_json<T: serde::Serialize>(what: &'static str, value: &T) -> Result<String, DbError> {
    serde_json::to_string(value).map_err(|e| DbError::BadRow { what, why: e.to_string() })
}

/// A civil day column.
pub(super) fn day(text: &str) -> Result<jiff::civil::Date, DbError> {
    text.parse().map_err(|e: jiff::Error| DbError::BadRow { what: "day", why: e.to_string() })
}

/// A column that holds a day of any year, or nothing.
pub(super) fn month_day(
    text: Option<String>,
) -> Result<Option<rainshadow_core::schedule::MonthDay>, DbError> {
    text.map(|t| {
        t.parse().map_err(|e: rainshadow_core::schedule::MonthDayError| DbError::BadRow {
            what: "day of the year",
            why: e.to_string(),
        })
    })
    .transpose()
}

/// An instant column.
pub(super) fn instant(text: &str) -> Result<jiff::Timestamp, DbError> {
    text.parse().map_err(|e: jiff::Error| DbError::BadRow { what: "time", why: e.to_string() })
}
