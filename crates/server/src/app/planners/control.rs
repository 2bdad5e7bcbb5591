//! What can be set on a planner: every assumption with its unit and where its value comes from.

use rainshadow_core::quantity::units::TemperatureUnit;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// What is typed or chosen on a planner, by the key of its control.
pub type Values = BTreeMap<String, String>;

/// How a control is set.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ControlKind {
    /// A figure, typed.
    Figure,
    /// A share or another figure that is moved as well as typed.
    Slider,
    /// One of its options.
    Choice,
    /// A day.
    Day,
    /// Yes or no: "yes", "no".
    Check,
    /// Twelve figures, January first, apart by blanks.
    Months,
    /// Twenty-four figures from midnight on, apart by blanks.
    Hours,
    /// A few words.
    Text,
}

/// One of a choice.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ControlOption {
    /// What is kept.
    pub value: String,
    /// What is read.
    pub label: String,
}

/// When a control is shown: another one is set to one of these.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ShownWhen {
    /// The other one.
    pub key: String,
    /// Any of these.
    pub is: Vec<String>,
}

/// A control.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Control {
    /// Key of its value.
    pub key: String,
    /// What it is called.
    pub label: String,
    /// How it is set.
    pub kind: ControlKind,
    /// Its unit; empty: none.
    pub unit: String,
    /// What it begins with.
    pub value: String,
    /// Where that comes from: "capacity test of 21 April 2026", "common practice".
    pub source: String,
    /// Heading it stands under.
    pub group: String,
    /// Its options; empty: it is no choice.
    pub options: Vec<ControlOption>,
    /// When it is shown; none: always.
    pub shown_when: Option<ShownWhen>,
    /// Least, most and step of a slider.
    pub range: Option<[f64; 3]>,
}

impl Control {
    /// A control of a kind with what it begins with, and where that comes from.
    pub fn new(
        kind: ControlKind,
        (key, label): (&str, &str),
        value: impl Into<String>,
        source: impl Into<String>,
    ) -> Self {
        Self {
            key: key.into(),
            label: label.into(),
            kind,
            unit: String::new(),
            value: value.into(),
            source: source.into(),
            group: String::new(),
            options: Vec::new(),
            shown_when: None,
            range: None,
        }
    }

    /// With a unit.
    #[must_use]
    pub fn unit(mut self, unit: impl Into<String>) -> Self {
        self.unit = unit.into();
        self
    }

    /// With its options.
    #[must_use]
    pub fn options<V: Into<String>, L: Into<String>>(
        mut self,
        all: impl IntoIterator<Item = (V, L)>,
    ) -> Self {
        self.options = all
            .into_iter()
            .map(|(value, label)| ControlOption { value: value.into(), label: label.into() })
            .collect();
        self
    }

    /// Shown where another one is set to one of these.
    #[must_use]
    pub fn when(mut self, key: &str, is: &[&str]) -> Self {
        self.shown_when =
            Some(ShownWhen { key: key.into(), is: is.iter().map(|own| (*own).to_owned()).collect() });
        self
    }

    /// Moved between these by this step.
    #[must_use]
    pub const fn range(mut self, low: f64, high: f64, step: f64) -> Self {
        self.range = Some([low, high, step]);
        self
    }
}

/// All of these under one heading.
pub fn group(name: &str, all: impl IntoIterator<Item = Control>) -> Vec<Control> {
    all.into_iter().map(|own| Control { group: name.into(), ..own }).collect()
}

/// "°C" or "°F".
pub const fn degrees(unit: TemperatureUnit) -> &'static str {
    match unit {
        TemperatureUnit::Celsius => "\u{b0}C",
        TemperatureUnit::Fahrenheit => "\u{b0}F",
    }
}

/// A figure as it is typed: no more digits than it has.
pub fn figure(own: f64) -> String {
    let rounded = (own * 1000.0).round() / 1000.0;
    format!("{}", rounded + 0.0)
}

/// A temperature, °C, as it is typed in a unit, to a tenth.
pub fn typed_degrees(celsius: f64, unit: TemperatureUnit) -> String {
    figure((unit.of_celsius(celsius) * 10.0).round() / 10.0)
}

/// Several of one kind, apart by blanks.
pub fn several(all: impl IntoIterator<Item = String>) -> String {
    all.into_iter().collect::<Vec<_>>().join(" ")
}
