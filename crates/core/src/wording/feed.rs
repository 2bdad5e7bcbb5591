//! What the feed of a charger says, in words.

use crate::feed::Answering;

/// How a feed stands. `last` is the time of day of its last answer, `marked` how many samples of the run
/// did not count.
pub fn feed_said(feed: Answering, last: &str, marked: i64) -> String {
    let marked = match marked {
        0 => String::new(),
        1 => " One sample of this run did not count.".into(),
        n => format!(" {n} samples of this run did not count."),
    };
    match feed {
        Answering::NotConnected => "No feed from the charger: type what its display shows.".into(),
        Answering::NotYet => "The charger has not answered yet. Type what its display shows.".into(),
        Answering::Stopped { stage } => {
            let stage = stage.map(|s| format!(", {}", s.word())).unwrap_or_default();
            format!(
                "The charger has stopped answering; it last did at {last}{stage}. The run goes on: type what its display shows.{marked}"
            )
        }
        Answering::LeftRun { stage } => {
            format!("The charger says it is {}: has it left equalize?{marked}", stage.word())
        }
        Answering::Answers { stage } => {
            let stage = stage.map(|s| format!(", {}", s.word())).unwrap_or_default();
            format!("The charger answers{stage}.{marked}")
        }
    }
}
