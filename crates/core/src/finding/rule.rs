//! The rules by their ids, with a title and where they come from.

use serde::{Deserialize, Serialize};

macro_rules! rules {
    ($($(#[$doc:meta])* $name:ident $id:literal $title:literal $source:literal;)+) => {
        /// Id of a rule, the same on every screen, report and test.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum RuleId {
            $($(#[$doc])* #[serde(rename = $id)] $name,)+
        }

        impl RuleId {
            /// The id as written: "RD-4".
            pub fn id(self) -> &'static str {
                match self { $(Self::$name => $id,)+ }
            }
            /// What the rule is about.
            pub fn title(self) -> &'static str {
                match self { $(Self::$name => $title,)+ }
            }
            /// Where it comes from.
            pub fn source(self) -> &'static str {
                match self { $(Self::$name => $source,)+ }
            }
        }
    };
}

rules! {
    /// Rest voltage from gravity.
    Sg3 "SG-3" "rest volts against gravity" "measured curve of Bode 1977; 0.02 V per cell is common practice";
    /// Acid was added.
    Sg6 "SG-6" "gravity above full" "common practice";
    /// Usable reading.
    Rd1 "RD-1" "a reading that counts" "common practice";
    /// Re-read.
    Rd3 "RD-3" "re-read at once" "common practice, widened by the instrument's noise";
    /// Balance.
    Rd4 "RD-4" "balance of the bank" "common practice, widened by the instrument's noise";
    /// Pattern.
    Rd5 "RD-5" "pattern of the cells" "common practice; a lone cell stands 3.5 robust sigmas off";
    /// Condition.
    Rd8 "RD-8" "condition of a cell" "common practice, widened by the instrument's noise";
}
