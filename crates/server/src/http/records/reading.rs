//! A file that comes in is read as it comes, and kept day by day.

use crate::app::App;
use crate::app::records::being_read::BeingRead;
use crate::app::records::{abandon_record, keep_rows};
use crate::db::DbError;
use crate::formats::record_csv::{
    Against, HEAD, ReadRecord, Reading, RecordCsvError, RecordSource, read_record,
};
use crate::http::error::{ApiError, ApiResult};
use crate::http::state::AppState;
use axum::body::{Body, Bytes};
use axum::http::StatusCode;
use jiff::Timestamp;
use jiff::tz::TimeZone;
use rainshadow_core::charging_record::{MinuteRow, RecordedBank, VoltsWatch, turned};
use rainshadow_core::wording;
use std::collections::VecDeque;
use std::io::Read;
use std::sync::Arc;
use tokio_stream::StreamExt as _;
use tokio_util::io::{StreamReader, SyncIoBridge};

/// Largest file: five million lines of two hundred letters.
const LARGEST: u64 = 1024 * 1024 * 1024;
/// Rows that are kept in one write.
const AT_ONCE: usize = 60_000;

type Pieces = std::pin::Pin<Box<dyn tokio_stream::Stream<Item = std::io::Result<Bytes>> + Send>>;

/// The first piece of a file, and all of it.
pub(super) async fn begun(body: Body) -> ApiResult<(Vec<u8>, StreamReader<Pieces, Bytes>)> {
    let broken = |e: &dyn std::fmt::Display| {
        ApiError::new(StatusCode::BAD_REQUEST, "broken-body", "Broken request", e.to_string())
    };
    let mut pieces = body.into_data_stream();
    let mut head = Vec::new();
    while head.len() < HEAD {
        match pieces.next().await {
            Some(piece) => head.extend_from_slice(&piece.map_err(|e| broken(&e))?),
            None => break,
        }
    }
    let first = tokio_stream::once(Ok(Bytes::from(head.clone())));
    let all: Pieces = Box::pin(first.chain(pieces.map(|piece| piece.map_err(std::io::Error::other))));
    head.truncate(HEAD);
    Ok((head, StreamReader::new(all)))
}

/// Takes a file up that is to be read; not while it is being read already.
pub(super) async fn taken_up(
    state: &AppState,
    id: &str,
    file: &mut StreamReader<Pieces, Bytes>,
) -> ApiResult<Arc<BeingRead>> {
    if let Some(own) = state.records.take_up(id) {
        return Ok(Arc::new(own));
    }
    let_go(file).await;
    let said = "This file is being read just now. Wait until it is through, or stop it.";
    Err(ApiError::new(StatusCode::CONFLICT, "being-read", "It is being read", said))
}

/// Takes the rest of a file that is not wanted: whoever still sends it reads no answer before it is taken.
pub(super) async fn let_go(file: &mut StreamReader<Pieces, Bytes>) {
    let mut rest = tokio::io::AsyncReadExt::take(file, LARGEST);
    // A sender who goes away meanwhile reads no answer anyway.
    let _gone = tokio::io::copy(&mut rest, &mut tokio::io::sink()).await;
}

/// The same where a file is read off the threads that answer.
fn let_go_here(file: impl Read) {
    let _gone = std::io::copy(&mut file.take(LARGEST), &mut std::io::sink());
}

/// Counts what is read.
struct Counted<'a, R> {
    inner: R,
    bytes: u64,
    own: &'a BeingRead,
}

impl<R: Read> Read for Counted<'_, R> {
    fn read(&mut self, into: &mut [u8]) -> std::io::Result<usize> {
        let n = self.inner.read(into)?;
        self.bytes += n as u64;
        if self.bytes > LARGEST {
            return Err(std::io::Error::other(format!(
                "it is larger than {} MB; split it by years",
                LARGEST / 1024 / 1024
            )));
        }
        let bytes = self.bytes;
        self.own.told(|own| own.bytes = bytes);
        Ok(n)
    }
}

/// Keeps rows as they come.
struct Keeping<'a> {
    app: &'a App,
    own: &'a BeingRead,
    bank: &'a RecordedBank,
    zone: &'a TimeZone,
    volts: VoltsWatch,
    waiting: Vec<MinuteRow>,
    /// Why rows were not kept, which is no fault of the file.
    not_kept: Option<DbError>,
}

impl Keeping<'_> {
    fn keep(&mut self) -> Result<(), String> {
        let rows = std::mem::take(&mut self.waiting);
        keep_rows(self.app, self.own.id(), &rows).map_err(|error| {
            let said = error.to_string();
            self.not_kept = Some(error);
            said
        })
    }
}

impl Reading for Keeping<'_> {
    fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String> {
        for row in &rows {
            self.volts.push(row);
        }
        self.volts.check(self.bank).map_err(|e| e.to_string())?;
        self.waiting.extend(rows);
        if self.waiting.len() >= AT_ONCE { self.keep() } else { Ok(()) }
    }

    fn told(&mut self, lines: u64, at: Timestamp) {
        let minute = at.as_second().div_euclid(60);
        let reached = wording::minute_on_record(minute, self.zone);
        self.own.told(|own| (own.lines, own.reached) = (lines, reached));
    }
}

/// Reads a file to its end, off the threads that answer.
pub(super) async fn to_its_end(
    state: &AppState,
    own: &Arc<BeingRead>,
    file: StreamReader<Pieces, Bytes>,
    (source, bank, zone): (RecordSource, RecordedBank, TimeZone),
) -> ApiResult<ReadRecord> {
    let (shared, own) = (state.clone(), Arc::clone(own));
    let work = move || {
        let inner = SyncIoBridge::new(file);
        let mut counted = Counted { inner, bytes: 0, own: &own };
        let against = Against { zone: &zone, c20: bank.c20, now: shared.clock.now() };
        let mut keeping = Keeping {
            app: &shared,
            own: &own,
            bank: &bank,
            zone: &zone,
            volts: VoltsWatch::default(),
            waiting: Vec::new(),
            not_kept: None,
        };
        let read = read_record(&mut counted, &source, against, &mut keeping);
        let read = read.and_then(|read| keeping.keep().map(|()| read).map_err(RecordCsvError::Stopped));
        // Here, since whoever sent it may have gone away, and nobody waits for the answer any more.
        if read.is_err()
            && let Err(error) = abandon_record(&shared, own.id())
        {
            tracing::error!(%error, "what was kept of a broken record is not thrown away");
        }
        if read.is_err() {
            let_go_here(counted.inner);
        }
        read.map_err(|error| keeping.not_kept.map_or_else(|| super::refused(&error), ApiError::from))
    };
    tokio::task::spawn_blocking(work)
        .await
        .unwrap_or_else(|_join| Err(super::refused(&RecordCsvError::Stopped("reading it stopped".into()))))
}

/// Rows of a minute that a year has.
const YEAR: usize = 366 * 1440;

/// Keeps the last year of what comes.
struct LastYear<'a> {
    bank: &'a RecordedBank,
    newest_first: bool,
    volts: VoltsWatch,
    rows: VecDeque<MinuteRow>,
}

impl Reading for LastYear<'_> {
    fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String> {
        for row in &rows {
            self.volts.push(row);
        }
        self.volts.check(self.bank).map_err(|e| e.to_string())?;
        for row in rows {
            if self.newest_first {
                if self.rows.len() < YEAR {
                    self.rows.push_front(row);
                }
                continue;
            }
            self.rows.push_back(row);
            if self.rows.len() > YEAR {
                self.rows.pop_front();
            }
        }
        Ok(())
    }

    fn told(&mut self, _lines: u64, _at: Timestamp) {}
}

/// Reads a file to its end and hands its last year over, the oldest first; times that tell no offset are of the zone.
pub(super) async fn last_year(
    state: &AppState,
    file: StreamReader<Pieces, Bytes>,
    (source, bank, zone): (RecordSource, RecordedBank, TimeZone),
) -> Result<(ReadRecord, Vec<MinuteRow>), RecordCsvError> {
    let now = state.clock.now();
    let work = move || {
        let against = Against { zone: &zone, c20: bank.c20, now };
        let newest_first = source.newest_first;
        let mut last =
            LastYear { bank: &bank, newest_first, volts: VoltsWatch::default(), rows: VecDeque::new() };
        let mut file = SyncIoBridge::new(file).take(LARGEST);
        let read = match read_record(&mut file, &source, against, &mut last) {
            Ok(read) => read,
            Err(error) => {
                let_go_here(file);
                return Err(error);
            }
        };
        let mut rows: Vec<MinuteRow> = last.rows.into();
        turned(&mut rows, &read.brought.other_way);
        Ok((read, rows))
    };
    tokio::task::spawn_blocking(work)
        .await
        .unwrap_or_else(|_join| Err(RecordCsvError::Stopped("reading it stopped".into())))
}
