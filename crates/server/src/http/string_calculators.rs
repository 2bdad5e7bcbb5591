//! Calculator of parallel strings that needs no bank.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::Body;
use crate::app::pages::breakdown::BreakdownLine;
use crate::app::typed::cable::{SectionUnit, section};
use crate::app::typed::faults::{Faults, filled};
use axum::Json;
use rainshadow_core::bank::string_letter;
use rainshadow_core::conductor::{Cable, LUG_MILLIOHMS};
use rainshadow_core::finding::RuleId;
use rainshadow_core::parallel_share::{
    Link, ParallelBank, ParallelString, ShareChange, ShareError, Shares, TakeOff, WITHIN, judge_shares,
};
use rainshadow_core::quantity::{bounds, typed};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One string, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedString {
    /// Its resistance, mΩ.
    pub milliohms: String,
    /// Its volts without load; empty: as the others.
    #[serde(default)]
    pub volts: String,
}

/// Parallel strings, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedParallel {
    /// String by string; a line of nothing is left out.
    pub strings: Vec<TypedString>,
    /// Section of the links between them; 4/0 is typed 4/0 where it is a gauge.
    pub section: String,
    /// How it is said.
    pub section_unit: SectionUnit,
    /// Length of a link from string to string, m.
    pub metres: String,
    /// String at which the plus is taken off, counted from 1.
    pub positive: String,
    /// String at which the minus is.
    pub negative: String,
    /// Current drawn, A.
    pub amperes: String,
}

/// Shares as drawn.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShareLine {
    /// Which change; none: as it is.
    pub change: Option<ShareChange>,
    /// What to do: "take the minus from the other end".
    pub what: String,
    /// "A 56 %, B 44 %".
    pub said: String,
    /// Share of each string against an even one: 0 is even, 0.1 a tenth more.
    pub off: Vec<f64>,
    /// True where every share lies within five per cent of even.
    pub even: bool,
    /// True for the cheapest that evens them.
    pub cheapest: bool,
}

/// How the strings share.
#[derive(Debug, Serialize, ToSchema)]
pub struct ParallelSaid {
    /// The one sentence.
    pub said: String,
    /// String by string: its share and current, and what circulates without load.
    pub strings: Vec<BreakdownLine>,
    /// As it is, then what could be changed, the cheapest first.
    pub lines: Vec<ShareLine>,
    /// How far from even is still even, relative.
    pub within: f64,
    /// Rule and source.
    pub rule: String,
}

fn line(change: Option<ShareChange>, own: &Shares, cheapest: bool) -> ShareLine {
    ShareLine {
        change,
        what: wording::sentence(wording::share_change(change.unwrap_or(ShareChange::AsItIs))),
        said: wording::shares_said(own),
        off: own.off(),
        even: own.even,
        cheapest,
    }
}

/// The field that a refusal is about.
const fn field_of(error: &ShareError) -> &'static str {
    match error {
        ShareError::TakeOff { rail, .. } if matches!(rail.as_bytes(), b"negative") => "negative",
        ShareError::TakeOff { .. } => "positive",
        _ => "strings",
    }
}

/// ST-1 for any strings.
#[utoipa::path(
    post, path = "/api/bench/parallel-share", operation_id = "bench_parallel_share", request_body = TypedParallel,
    responses((status = 200, body = ParallelSaid), (status = "default", body = Problem))
)]
pub async fn parallel_share(Body(asked): Body<TypedParallel>) -> ApiResult<Json<ParallelSaid>> {
    let mut faults = Faults::default();
    let f = &mut faults;
    let given = asked.strings.iter().enumerate().filter(|(_, own)| !own.milliohms.trim().is_empty());
    let strings: Vec<ParallelString> = given
        .filter_map(|(at, own)| {
            let milliohms = f.take(
                &format!("strings[{at}].milliohms"),
                typed::number(&own.milliohms, bounds::STRING_RESISTANCE),
            );
            let volts = filled(Some(&own.volts))
                .and_then(|t| f.take(&format!("strings[{at}].volts"), typed::number(t, bounds::VOLTAGE)));
            Some(ParallelString { milliohms: milliohms?, volts: volts.unwrap_or_default() })
        })
        .collect();
    let section = section(f, "section", &asked.section, asked.section_unit);
    let metres = f.take("metres", typed::number(&asked.metres, bounds::CABLE_LENGTH));
    let amperes = f.take("amperes", typed::number(&asked.amperes, bounds::TEST_CURRENT));
    let mut place = |field: &str, text: &String| {
        let place = text.trim().parse::<u8>();
        f.take(
            field,
            place.map_err(|_parse| format!("\u{201c}{text}\u{201d} is no string; accepted is 1 to 12")),
        )
    };
    let (positive, negative) = (place("positive", &asked.positive), place("negative", &asked.negative));
    let cable = section.zip(metres).map(|(section, metres)| Cable {
        section,
        metres,
        lugs: 2,
        lug_milliohms: LUG_MILLIOHMS,
    });
    faults.none()?;
    let (Some(cable), Some(amperes), Some(positive), Some(negative)) = (cable, amperes, positive, negative)
    else {
        return Err(ApiError::field("strings", "A figure is missing."));
    };
    let links = vec![Link::Cable(cable); strings.len().saturating_sub(1)];
    let bank = ParallelBank {
        strings,
        positive: links.clone(),
        negative: links,
        take_off: TakeOff::Rails { positive, negative },
        amperes,
    };
    let judged = judge_shares(&bank)
        .map_err(|e| ApiError::field(field_of(&e), wording::stopped(&wording::sentence(&e.to_string()))))?;
    let now = &judged.now;
    let strings = (0u8..).zip(now.shares.iter().zip(&now.amperes).zip(&now.circulating));
    let strings = strings.map(|(i, ((share, own), idle))| {
        let circulates =
            if idle.abs() < 0.05 { String::new() } else { format!("; {idle:+.1} A without load") };
        let what = format!("string {}", string_letter(i));
        BreakdownLine::new(what, format!("{:.1} %, {own:.1} A{circulates}", 100.0 * share))
    });
    let options = judged
        .options
        .iter()
        .map(|own| line(Some(own.change), &own.shares, judged.cheapest == Some(own.change)));
    Ok(Json(ParallelSaid {
        said: wording::shares_verdict(&judged),
        strings: strings.collect(),
        lines: std::iter::once(line(None, now, false)).chain(options).collect(),
        within: WITHIN,
        rule: format!(
            "ST-1: {}. Links of {:.3} mΩ each, two lugs of {LUG_MILLIOHMS} mΩ with them.",
            RuleId::St1.source(),
            cable.milliohms().unwrap_or_default()
        ),
    }))
}
