//! What would even the strings, line by line.

use super::Told;
use rainshadow_core::parallel_share::Shares;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// Something that could be done, with the shares then.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShareOptionLine {
    /// What: "As it is", "Remake B1+".
    pub what: String,
    /// "10 min"; empty: nothing is done.
    pub work: String,
    /// "A 56 %, B 44 %".
    pub said: String,
    /// Share of each string against an even one: 0 is even, 0.1 a tenth more.
    pub off: Vec<f64>,
    /// True where every share lies within five per cent of even.
    pub even: bool,
    /// True for the least work that evens them.
    pub cheapest: bool,
}

fn line(what: &str, work: String, shares: &Shares, cheapest: bool) -> ShareOptionLine {
    ShareOptionLine {
        what: wording::sentence(what),
        work,
        said: wording::shares_said(shares),
        off: shares.off(),
        even: shares.even,
        cheapest,
    }
}

impl Told<'_> {
    pub(super) fn options(&self) -> Vec<ShareOptionLine> {
        let Some(share) = &self.share else { return Vec::new() };
        let now = line("as it is", String::new(), &share.now, false);
        let options = share.options.iter().enumerate().map(|(at, own)| {
            let work = format!("{:.0} min", own.minutes);
            line(&wording::wiring_option(own), work, &own.shares, share.cheapest == Some(at))
        });
        std::iter::once(now).chain(options).collect()
    }
}
