//! The collector: one task a charger, begun and ended as addresses change.

use super::{Charger, FeedNews, Keeper};
use crate::app::feeds;
use crate::clock::Clock;
use crate::db::{Db, FeedAddress, FeedSample};
use rainshadow_core::feed::FeedWatch;
use std::collections::HashMap;
use std::sync::Arc;
use std::time::Duration;
use tokio::task::JoinSet;

/// How often a charger is asked while a run is open, and else.
const IN_A_RUN: Duration = Duration::from_secs(1);
const AT_OTHER_TIMES: Duration = Duration::from_secs(10);
/// How long a charger that failed is left alone, longer each time up to this.
const LEFT_ALONE: Duration = Duration::from_secs(10);
/// How often it is looked whether a run began.
const LOOKED: Duration = Duration::from_secs(2);

/// What a task needs.
#[derive(Clone)]
struct Asked {
    db: Db,
    clock: Clock,
    news: Arc<FeedNews>,
    keeper: Keeper,
    bank: String,
    feed: FeedAddress,
}

async fn in_a_run(db: &Db, bank: &str) -> bool {
    feeds::in_a_run(db, bank.to_owned()).await.unwrap_or(false)
}

/// Waits until the charger is to be asked again: soon in a run, and as soon as one is opened.
async fn wait(asked: &Asked) {
    let until = tokio::time::Instant::now() + AT_OTHER_TIMES;
    if in_a_run(&asked.db, &asked.bank).await {
        return tokio::time::sleep(IN_A_RUN).await;
    }
    while tokio::time::Instant::now() < until {
        tokio::time::sleep(LOOKED).await;
        if in_a_run(&asked.db, &asked.bank).await {
            return;
        }
    }
}

/// Asks one charger for as long as it is connected.
async fn ask(asked: Asked) {
    let Ok((cells, capacity)) = feeds::size(&asked.db, asked.bank.clone()).await else { return };
    let mut watch = FeedWatch::new(cells, capacity);
    let mut failures = 0u32;
    loop {
        let wrong = match Charger::connect(asked.feed.address, asked.feed.unit).await {
            Err(error) => error,
            Ok(mut charger) => loop {
                // Thresholds are of real seconds, however fast the clock goes.
                match charger.sample(asked.clock.seconds() / asked.clock.speed()).await {
                    Ok(sample) => {
                        failures = 0;
                        asked.news.tell(&asked.bank, None);
                        let mark = watch.judge(&sample);
                        let own =
                            FeedSample { bank: asked.bank.clone(), at: asked.clock.now(), sample, mark };
                        if !asked.keeper.take(own).await {
                            return;
                        }
                    }
                    Err(error) => break error,
                }
                wait(&asked).await;
            },
        };
        asked.news.tell(&asked.bank, Some(rainshadow_core::wording::stopped(&wrong.to_string())));
        failures = failures.saturating_add(1);
        tokio::time::sleep(LEFT_ALONE.min(Duration::from_secs(u64::from(failures)))).await;
    }
}

/// Asks every charger that is told of, until the server goes down.
pub async fn collect(db: Db, clock: Clock, news: Arc<FeedNews>) {
    let (keeper, work) = {
        let clock = clock.clone();
        Keeper::new(db.clone(), move || clock.now())
    };
    // Tasks end with this one.
    let mut tasks = JoinSet::new();
    tasks.spawn(work);
    let mut running: HashMap<String, (FeedAddress, tokio::task::AbortHandle)> = HashMap::new();
    loop {
        let wanted: HashMap<String, FeedAddress> = match feeds::told_of(&db).await {
            Ok(feeds) => feeds,
            Err(error) => {
                tracing::error!(%error, "feeds are not known");
                running.iter().map(|(bank, (feed, _))| (bank.clone(), feed.clone())).collect()
            }
        };
        running.retain(|bank, (feed, handle)| {
            let stays = wanted.get(bank) == Some(feed);
            if !stays {
                handle.abort();
                news.tell(bank, None);
            }
            stays
        });
        for (bank, feed) in wanted {
            running.entry(bank).or_insert_with_key(|bank| {
                let asked = Asked {
                    db: db.clone(),
                    clock: clock.clone(),
                    news: Arc::clone(&news),
                    keeper: keeper.clone(),
                    bank: bank.clone(),
                    feed: feed.clone(),
                };
                (feed, tasks.spawn(ask(asked)))
            });
        }
        // Archived and restored banks are seen within a minute.
        let _ = tokio::time::timeout(Duration::from_mins(1), news.wait()).await;
    }
}
