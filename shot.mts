import { chromium } from 'playwright-core';
const [,, who, theme, width, out, ...paths] = process.argv;
const PINS:any={lead:['1001','2580'],setter:['1002','1470'],operator:['1003','3690'],inspector:['1004','7410'],crib:['1005','8520']};
const b=await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--disable-gpu']});
const c=await b.newContext({viewport:{width:Number(width),height:Number(width)<500?844:800}});
await c.addCookies([{name:'tin-theme',value:theme,url:'http://localhost:4299'}]);
const p=await c.newPage();
const ready=()=>p.waitForFunction(()=>document.documentElement.dataset.ready==='yes');
await p.goto('http://localhost:4299/sign-in');await ready();
await p.getByLabel('Badge number',{exact:true}).fill(PINS[who][0]);await p.getByLabel('PIN',{exact:true}).fill(PINS[who][1]);
await p.getByRole('button',{name:'Sign in'}).click();await p.waitForURL(u=>!u.pathname.startsWith('/sign-in'));
console.log('landed',p.url());
let i=0;
for(const path of paths){await p.goto('http://localhost:4299'+path);await ready();await p.waitForTimeout(600);await p.screenshot({path:`${out}${i++}.png`,fullPage:process.env.FULL==='1'});console.log(path,p.url())}
await b.close();
