//! Storing samples: many at once, none lost while the database is busy.

use crate::app::feeds;
use crate::db::{Db, FeedSample};
use std::time::Duration;
use tokio::sync::mpsc;

/// How long samples are gathered before they are written.
const GATHERED: Duration = Duration::from_secs(1);
/// Samples that wait at most; who sends more waits.
const WAITING: usize = 4096;
/// How often what is older than a week is thrown away.
const THINNED: Duration = Duration::from_hours(1);

/// Takes samples in and writes them.
#[derive(Debug, Clone)]
pub struct Keeper(mpsc::Sender<FeedSample>);

impl Keeper {
    /// A keeper and the work it does, which ends when all who send are gone.
    pub fn new(
        db: Db,
        now: impl Fn() -> jiff::Timestamp + Send + 'static,
    ) -> (Self, impl Future<Output = ()> + Send) {
        let (send, receive) = mpsc::channel(WAITING);
        (Self(send), keep(db, receive, now))
    }

    /// Hands a sample over; false when nobody writes any more.
    pub async fn take(&self, sample: FeedSample) -> bool {
        self.0.send(sample).await.is_ok()
    }
}

async fn keep(
    db: Db,
    mut receive: mpsc::Receiver<FeedSample>,
    now: impl Fn() -> jiff::Timestamp + Send + 'static,
) {
    let mut samples = Vec::new();
    let mut thinned: Option<tokio::time::Instant> = None;
    loop {
        let open = receive.recv_many(&mut samples, WAITING).await > 0;
        if samples.is_empty() && !open {
            return;
        }
        // Until it is written it stays here; what comes meanwhile waits in the channel.
        while let Err(error) = feeds::append(&db, samples.clone()).await {
            tracing::error!(%error, waiting = samples.len(), "samples of a feed are not written yet");
            tokio::time::sleep(GATHERED).await;
        }
        samples.clear();
        if thinned.is_none_or(|at| at.elapsed() > THINNED) {
            thinned = Some(tokio::time::Instant::now());
            let at = now();
            if let Err(error) = feeds::thin(&db, at).await {
                tracing::error!(%error, "old samples are not thrown away");
            }
        }
        if !open {
            return;
        }
        tokio::time::sleep(GATHERED).await;
    }
}
