//! The look-over: what is looked at, what can be found, and how bad that is.

use crate::battery_model::Construction;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Play in a hold-down that is watched, and that is acted on, mm (common practice, no source).
pub const PLAY_WATCH_MM: f64 = 3.0;
/// A battery that moves this far rubs its cables and shakes its plates, mm (common practice, no
/// source).
pub const PLAY_ACT_MM: f64 = 10.0;
/// Steady volts from a post to a metal tray that are the sign of an acid track (common practice, no
/// source).
pub const TRAY_WATCH_VOLTS: f64 = 0.5;

macro_rules! checks {
    ($($(#[$doc:meta])* $name:ident $said:literal $caps:literal $each:literal [$($key:literal $kind:literal $severity:ident $spare:literal),* $(,)?];)+) => {
        /// One thing that is looked at.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Check { $($(#[$doc])* $name,)+ }

        impl Check {
            /// Every check, in the order the eye goes.
            pub const ALL: &'static [Self] = &[$(Self::$name,)+];
            /// As asked.
            pub fn said(self) -> &'static str { match self { $(Self::$name => $said,)+ } }
            /// True when only batteries with caps have it.
            pub fn needs_caps(self) -> bool { match self { $(Self::$name => $caps,)+ } }
            /// True when it is looked at battery by battery.
            pub fn each_battery(self) -> bool { match self { $(Self::$name => $each,)+ } }
            /// What can be found.
            pub fn kinds(self) -> &'static [FoundKind] {
                match self {
                    $(Self::$name => const { &[$(FoundKind {
                        key: $key, said: $kind, severity: Severity::$severity, spare: $spare,
                    },)*] },)+
                }
            }
        }
    };
}

/// Something that can be found.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FoundKind {
    /// Stable key.
    pub key: &'static str,
    /// In words.
    pub said: &'static str,
    /// How bad it usually is; the technician can say otherwise.
    pub severity: Severity,
    /// What to carry for it; empty: nothing.
    pub spare: &'static str,
}

checks! {
    /// The case.
    Case "Case" false true [
        "bulge" "bulging" Act "", "crack" "cracked" Act "", "leak" "leaking" Act "bicarbonate and absorbent", "hot" "hot to the hand" Act "",
    ];
    /// Its top.
    Top "Top" false true [
        "wet" "wet" Watch "bicarbonate and water", "dirty" "dirty" Watch "rags and bicarbonate", "nest" "nest or droppings" Watch "brush",
    ];
    /// Vent caps.
    Caps "Caps" true true [
        "missing" "missing" Act "vent caps", "loose" "loose" Watch "", "seized" "seized" Watch "vent caps", "broken" "broken" Watch "vent caps",
    ];
    /// Posts and lugs.
    Terminals "Terminals" false true [
        "powder" "white powder" Watch "wire brush, post grease", "green" "green copper" Watch "lugs, wire brush", "loose" "loose" Act "torque wrench", "burnt" "burnt or melted" Act "lugs and cable",
    ];
    /// Hold-down, mm of play.
    HoldDown "Hold-down" false true [
        "play" "it moves" Watch "hold-down hardware", "missing" "missing" Act "hold-down hardware",
    ];
    /// Air between cases.
    Spacing "Spacing" false false [
        "touching" "cases touch" Watch "spacers", "blocked" "air is blocked" Watch "",
    ];
    /// Cables and links.
    Cables "Cables and links" false false [
        "thin_lug" "thin or sheared lug" Act "lugs and cable", "stiff" "stiff or swollen" Watch "cable", "hot" "hot or discoloured" Act "lugs and cable",
        "bare" "bare copper" Act "heat-shrink sleeve", "pinched" "pinched" Act "cable", "rubbing" "rubbing" Watch "edge guard",
    ];
    /// What a dropped tool could bridge.
    Insulation "Insulation" false false [
        "open_posts" "posts a tool could bridge" Watch "post covers", "boot_missing" "boot missing" Watch "post covers",
    ];
    /// Fuse and disconnect.
    Fuse "Fuse and disconnect" false false [
        "missing" "missing" Act "fuse and holder", "unrated" "not rated for the bank" Act "fuse and holder", "corroded" "corroded" Watch "fuse",
    ];
    /// Vent path and fan.
    VentPath "Vent path and fan" false false [
        "blocked" "blocked" Act "", "nest" "nested in" Act "brush", "fan_dead" "fan does not run" Act "fan",
    ];
    /// Temperature sensor.
    Sensor "Temperature sensor" false false [
        "missing" "missing" Watch "temperature sensor", "off" "fallen off the bank" Watch "sensor tape", "wrong" "on another bank" Watch "",
    ];
    /// What hangs above.
    Above "What hangs above" false false [
        "object" "something can fall on it" Act "", "electronics" "electronics above, corroding" Watch "",
    ];
    /// Volts from a post to a metal tray.
    Tray "Volts from post to tray" false false [
        "track" "an acid track" Watch "bicarbonate and water",
    ];
}

/// The checks of a bank of this construction.
pub fn checks(construction: Construction) -> Vec<Check> {
    Check::ALL.iter().copied().filter(|c| construction.has_caps() || !c.needs_caps()).collect()
}

/// What was found at a check.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeenFinding {
    /// Key of the kind.
    pub kind: String,
    /// How bad.
    pub severity: Severity,
    /// In the technician's words.
    #[serde(default)]
    pub note: String,
    /// Play in mm, or volts to the tray, where measured.
    #[serde(default)]
    pub measured: Option<f64>,
}

impl Check {
    /// The kind with this key.
    pub fn kind(self, key: &str) -> Option<FoundKind> {
        self.kinds().iter().copied().find(|k| k.key == key)
    }

    /// What is measured at this check, and its unit: play in mm, volts to the tray.
    pub fn measures(self) -> Option<(&'static str, &'static str)> {
        match self {
            Self::HoldDown => Some(("play", "mm")),
            Self::Tray => Some(("volts", "V")),
            _ => None,
        }
    }

    /// How bad a measured value is.
    pub fn judge(self, measured: f64) -> Option<Severity> {
        match self {
            Self::HoldDown => Some(match measured {
                mm if mm >= PLAY_ACT_MM => Severity::Act,
                mm if mm >= PLAY_WATCH_MM => Severity::Watch,
                _ => Severity::Steady,
            }),
            Self::Tray if measured >= TRAY_WATCH_VOLTS => Some(Severity::Watch),
            Self::Tray => Some(Severity::Steady),
            _ => None,
        }
    }

    /// What to do about it.
    pub fn advice(self) -> &'static str {
        match self {
            Self::Case => "Take it out of the string; do not charge it. Contain what leaks.",
            Self::Top | Self::Tray => {
                "Clean with bicarbonate in water, caps shut, never a drop inside; rinse, dry, measure again."
            }
            Self::Caps => "Replace the cap; until then look at this cell's level on every visit.",
            Self::Terminals => "Clean, dry, reassemble, tighten to the maker's torque, coat after assembly.",
            Self::HoldDown => "Secure it: a battery that moves works its lugs loose and sheds its plates.",
            Self::Spacing => "Give the cases air; a warm middle ages first.",
            Self::Cables => "Remake the lug or the cable before the bank carries load again.",
            Self::Insulation => "Cover the posts.",
            Self::Fuse => "Fit a fuse and a disconnect near the bank, rated for its short-circuit current.",
            Self::VentPath => "Clear it before any charging: hydrogen gathers under a lid.",
            Self::Sensor => {
                "Put it on the case of a middle battery; without it setpoints are wrong in heat and cold."
            }
            Self::Above => "Move it.",
        }
    }
}
