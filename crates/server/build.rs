//! Compiles the server anew when the web application it embeds was built anew.

fn main() {
    println!("cargo::rerun-if-changed=../../web/dist");
}
